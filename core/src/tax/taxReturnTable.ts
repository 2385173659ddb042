import type { TaxCodeId } from '../ids.ts';
import type { TaxSide } from '../ledger/kinds.ts';
import type { TaxBoxes } from '../ledger/starterBooks.ts';
import { type Minor, sumMinor } from '../money/minor.ts';
import type { ReportRow, ReportSection } from '../reports/accountTotals.ts';
import type { TableRow } from '../reports/reportTable.ts';
import { t } from '../words/t.ts';
import { type TaxRow, taxBoxes, taxDue } from './taxReturn.ts';

/** The columns of a return's table. */
export const taxColumns = [t`Without tax`, t`Tax`, t`Late, without tax`, t`Late, tax`] as const;

/** A row of a return that is one tax code on one side; its key says which. */
export function taxRowKey({ taxCodeId, side }: Pick<TaxRow, 'taxCodeId' | 'side'>): string {
  return `${taxCodeId} ${side}`;
}

/**
 * A return as sections of a report: by tax code on either side with their sums, then by box, and the tax due below.
 *
 * @returns one figure for each of {@link taxColumns}
 */
export function taxReturnTable(
  rows: readonly TaxRow[],
  {
    codeName,
    boxesOf,
  }: {
    readonly codeName: (id: TaxCodeId) => string;
    readonly boxesOf: (id: TaxCodeId) => TaxBoxes;
  },
): { readonly sections: readonly ReportSection[]; readonly foot: TableRow } {
  const codes = (side: TaxSide) => rows.filter((row) => row.side === side);
  const late = rows.map((row) => ({ ...row, ...row.late }));
  const lateBoxes = new Map(taxBoxes(late, boxesOf).map((box) => [box.box, box]));
  const boxes = taxBoxes(rows, boxesOf);
  const names = new Set([...boxes, ...lateBoxes.values()].map(({ box }) => box));
  const sections: ReportSection[] = [
    codeSection(t`Sales`, codes('output'), codeName),
    codeSection(t`Purchases`, codes('input'), codeName),
    {
      heading: t`Boxes`,
      rows: [...names].map((box): ReportRow => {
        const own = boxes.find((each) => each.box === box);
        return {
          key: `box ${box}`,
          label: box ?? t`No box`,
          accountId: null,
          kind: 'account',
          amounts: [...netAndTax(own), ...netAndTax(lateBoxes.get(box))],
        };
      }),
    },
  ];
  return {
    sections: sections.filter((section) => section.rows.length > 0),
    foot: {
      key: 'due',
      label: taxDue(rows).due < 0 ? t`Tax to reclaim` : t`Tax due`,
      kind: 'result',
      amounts: [null, taxDue(rows).due, null, taxDue(late).due],
    },
  };
}

function netAndTax(box: ReturnType<typeof taxBoxes>[number] | undefined): [Minor, Minor] {
  const of = (isTax: boolean) =>
    sumMinor(
      (box?.parts ?? [])
        .filter(({ part }) => part.endsWith('Tax') === isTax)
        .map(({ amount }) => amount),
    );
  return [of(false), of(true)];
}

function codeSection(
  heading: string,
  rows: readonly TaxRow[],
  codeName: (id: TaxCodeId) => string,
): ReportSection {
  const shown = rows.map(
    (row): ReportRow => ({
      key: taxRowKey(row),
      label: codeName(row.taxCodeId),
      accountId: null,
      kind: 'account',
      amounts: [row.net, row.tax, row.late.net, row.late.tax],
    }),
  );
  if (shown.length === 0) return { heading, rows: [] };
  const sum: ReportRow = {
    key: `sum ${heading}`,
    label: heading,
    accountId: null,
    kind: 'sum',
    amounts: taxColumns.map((_, at) => sumMinor(shown.map(({ amounts }) => amounts[at] ?? 0))),
  };
  return { heading, rows: [...shown, sum] };
}
