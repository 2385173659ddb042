import { type Minor, sumMinor } from '../money/minor.ts';
import { t } from '../words/t.ts';
import type { TableRow } from './reportTable.ts';

/** What income and costs can be grouped by. */
export const groupings = ['payee', 'costCentre', 'job'] as const;
export type Grouping = (typeof groupings)[number];

/** What one payee, cost centre or job comes to. */
export interface GroupTotal {
  /** Null for what has none. */
  readonly id: string | null;
  readonly income: Minor;
  readonly costs: Minor;
  /** On neither, debit positive. */
  readonly other: Minor;
}

/** The columns of a grouped report before those of a comparison. */
export const groupedColumns = [t`Income`, t`Costs`, t`Result`, t`Other accounts`] as const;

/** The row of what has no payee, cost centre or job. */
export const NO_GROUP = 'none';

/**
 * Income, costs and result by payee, cost centre or job, the largest first, what has none last.
 *
 * @param compared the same of another period; null for none
 * @returns one figure for each of {@link groupedColumns}, and with a comparison the result then and the change since
 */
export function groupedReport(
  totals: readonly GroupTotal[],
  {
    nameOf,
    noneName,
    compared,
  }: {
    readonly nameOf: (id: string) => string;
    readonly noneName: string;
    readonly compared: readonly GroupTotal[] | null;
  },
): { readonly rows: readonly TableRow[]; readonly total: TableRow } {
  const now = new Map(totals.map((total) => [total.id, total]));
  const then = new Map((compared ?? []).map((total) => [total.id, total]));
  const rows = [...new Set([...now.keys(), ...then.keys()])].map((id) => {
    const figures = figuresOf(now.get(id));
    const before = resultOf(then.get(id));
    const amounts = [
      ...figures,
      ...(compared === null ? [] : [before, resultOf(now.get(id)) - before]),
    ];
    const label = id === null ? noneName : nameOf(id);
    return { key: id ?? NO_GROUP, label, kind: 'account' as const, amounts };
  });
  const shown = rows
    .filter(({ amounts }) => amounts.some((amount) => amount !== 0))
    .sort((a, b) => {
      const isLast = Number(a.key === NO_GROUP) - Number(b.key === NO_GROUP);
      return isLast || sizeOf(b.amounts) - sizeOf(a.amounts) || a.label.localeCompare(b.label);
    });
  const width = groupedColumns.length + (compared === null ? 0 : 2);
  return {
    rows: shown,
    total: {
      key: 'total',
      label: t`Total`,
      kind: 'result',
      amounts: Array.from({ length: width }, (_, at) =>
        sumMinor(shown.map(({ amounts }) => amounts[at] ?? 0)),
      ),
    },
  };
}

function resultOf(total: GroupTotal | undefined): Minor {
  return total === undefined ? 0 : total.income - total.costs;
}

function figuresOf(total: GroupTotal | undefined): Minor[] {
  return [total?.income ?? 0, total?.costs ?? 0, resultOf(total), total?.other ?? 0];
}

/** What went through it, whatever the direction. */
function sizeOf([income = 0, costs = 0, , other = 0]: readonly Minor[]): number {
  return Math.abs(income) + Math.abs(costs) + Math.abs(other);
}
