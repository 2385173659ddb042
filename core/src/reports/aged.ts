import { daysBetween } from '../dates/calendarDate.ts';
import { type Minor, sumMinor } from '../money/minor.ts';
import { t } from '../words/t.ts';
import type { TableRow } from './reportTable.ts';

/** What is open of a document on a day, debit positive. */
export interface OpenDocument {
  readonly id: string;
  readonly payeeId: string;
  readonly date: string;
  readonly dueDate: string | null;
  readonly open: Minor;
}

/** How long after it was due something is open: the columns of an aged list. */
export const agedColumns = [
  t`Not due yet`,
  t`1 to 30 days`,
  t`31 to 60 days`,
  t`61 to 90 days`,
  t`Over 90 days`,
  t`Total`,
] as const;

const TOTAL = agedColumns.length - 1;

/**
 * In which column of an aged list a document stands. Without a due date it was due on its own.
 *
 * @example agedColumn({ date: '2026-03-01', dueDate: '2026-03-31' }, '2026-04-01') // 1
 */
export function agedColumn(
  { date, dueDate }: Pick<OpenDocument, 'date' | 'dueDate'>,
  on: string,
): number {
  const days = daysBetween(dueDate ?? date, on);
  if (days <= 0) return 0;
  return Math.min(Math.ceil(days / 30), TOTAL - 1);
}

/** The row of what stands on the account beside open documents. */
export const UNMATCHED = 'unmatched';

/**
 * What payees owe or are owed on a day, by how long it is overdue, the largest first. The total is the balance of the
 * account: what no open document explains has a row of its own.
 *
 * @param sign 1 where debits are shown as positive, −1 for what is owed to suppliers
 */
export function agedList(
  documents: readonly OpenDocument[],
  {
    on,
    balance,
    sign,
    payeeName,
  }: {
    readonly on: string;
    /** Of the account, debit positive. */
    readonly balance: Minor;
    readonly sign: 1 | -1;
    readonly payeeName: (id: string) => string;
  },
): { readonly rows: readonly TableRow[]; readonly total: TableRow } {
  const byPayee = new Map<string, Minor[]>();
  for (const document of documents) {
    const amounts = byPayee.get(document.payeeId) ?? agedColumns.map(() => 0);
    byPayee.set(document.payeeId, amounts);
    const column = agedColumn(document, on);
    amounts[column] = (amounts[column] ?? 0) + sign * document.open;
    amounts[TOTAL] = (amounts[TOTAL] ?? 0) + sign * document.open;
  }
  const rows: TableRow[] = [...byPayee]
    .map(([payeeId, amounts]) => ({
      key: payeeId,
      label: payeeName(payeeId),
      kind: 'account' as const,
      amounts,
    }))
    .filter(({ amounts }) => amounts.some((amount) => amount !== 0))
    .sort((a, b) => (b.amounts[TOTAL] ?? 0) - (a.amounts[TOTAL] ?? 0));
  const rest = sign * balance - sumMinor(rows.map(({ amounts }) => Number(amounts[TOTAL] ?? 0)));
  if (rest !== 0) {
    const amounts = agedColumns.map((_, at) => (at === TOTAL ? rest : 0));
    rows.push({ key: UNMATCHED, label: t`Not matched to a document`, kind: 'account', amounts });
  }
  return {
    rows,
    total: {
      key: 'total',
      label: t`Total`,
      kind: 'result',
      amounts: agedColumns.map((_, at) =>
        sumMinor(rows.map(({ amounts }) => Number(amounts[at] ?? 0))),
      ),
    },
  };
}
