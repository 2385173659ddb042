import { addDays, addMonths, lastDayOf, monthOf } from '../dates/calendarDate.ts';
import type { TaxCodeId } from '../ids.ts';
import type { TaxSide } from '../ledger/kinds.ts';
import { type TaxBoxes, type TaxPart, taxParts } from '../ledger/starterBooks.ts';
import { type Minor, sumMinor } from '../money/minor.ts';

/** Filed from these books, or reported elsewhere: nothing of that is reported again. */
export const taxReturnKinds = ['filed', 'elsewhere'] as const;

/**
 * What one tax code comes to on one side: positive for what was sold and is owed, and for what was bought and comes
 * back; refunds lower it.
 */
export interface TaxRow {
  readonly taxCodeId: TaxCodeId;
  readonly side: TaxSide;
  /** Without tax. */
  readonly net: Minor;
  readonly tax: Minor;
  /** How many postings are in it. */
  readonly count: number;
  /** What of it is dated before the period, or was changed after it had been reported. */
  readonly late: { readonly net: Minor; readonly tax: Minor };
}

/** A box of the return, with what it is made of. */
export interface TaxBox {
  /** Null for what no box counts. */
  readonly box: string | null;
  readonly amount: Minor;
  readonly parts: readonly {
    readonly taxCodeId: TaxCodeId;
    readonly part: TaxPart;
    readonly amount: Minor;
  }[];
}

const amountOf: Readonly<Record<TaxPart, (row: TaxRow) => Minor | null>> = {
  outputNet: ({ side, net }) => (side === 'output' ? net : null),
  outputTax: ({ side, tax }) => (side === 'output' ? tax : null),
  inputNet: ({ side, net }) => (side === 'input' ? net : null),
  inputTax: ({ side, tax }) => (side === 'input' ? tax : null),
};

/**
 * The boxes of a return in the order of their names, those without one last.
 *
 * @param boxesOf in which box each part of a tax code counts
 */
export function taxBoxes(
  rows: readonly TaxRow[],
  boxesOf: (taxCodeId: TaxCodeId) => TaxBoxes,
): TaxBox[] {
  const boxes = new Map<string | null, { taxCodeId: TaxCodeId; part: TaxPart; amount: Minor }[]>();
  for (const row of rows) {
    for (const part of taxParts) {
      const amount = amountOf[part](row);
      if (amount === null || amount === 0) continue;
      const box = boxesOf(row.taxCodeId)[part];
      boxes.set(box, [...(boxes.get(box) ?? []), { taxCodeId: row.taxCodeId, part, amount }]);
    }
  }
  return [...boxes]
    .map(([box, parts]) => ({ box, parts, amount: sumMinor(parts.map(({ amount }) => amount)) }))
    .sort((a, b) => order(a.box, b.box));
}

function order(a: string | null, b: string | null): number {
  if (a === null || b === null) return Number(a === null) - Number(b === null);
  return a.localeCompare(b, 'en', { numeric: true });
}

/** Tax owed on sales, tax that comes back on purchases, and what is left to pay; negative for a refund. */
export function taxDue(rows: readonly Pick<TaxRow, 'side' | 'tax'>[]): {
  readonly output: Minor;
  readonly input: Minor;
  readonly due: Minor;
} {
  const of = (side: TaxSide) =>
    sumMinor(rows.filter((row) => row.side === side).map(({ tax }) => tax));
  return { output: of('output'), input: of('input'), due: of('output') - of('input') };
}

/** What the tax accounts say, against what was and is reported. Debit is positive. */
export interface TaxAgreement {
  /** The balance of all tax accounts at the end of the period. */
  readonly balance: Minor;
  /** The tax of this return. */
  readonly own: Minor;
  /** The tax of all returns before, as it was filed. */
  readonly earlier: Minor;
  /** What moved on the tax accounts without a tax code: payments, journals. */
  readonly others: Minor;
}

/** What the tax accounts have that no return and no other entry explains; 0 when they agree. */
export function taxUnexplained({ balance, own, earlier, others }: TaxAgreement): Minor {
  const off = balance - own - earlier - others;
  return off === 0 ? 0 : off;
}

/**
 * The period of the return after another: it ends as many months later as that one was long.
 *
 * @example nextPeriod({ from: '2026-01-01', to: '2026-03-31' }) // { from: '2026-04-01', to: '2026-06-30' }
 */
export function nextPeriod({ from, to }: { readonly from: string; readonly to: string }) {
  const start = addDays(to, 1);
  const [years = 0, months = 0] = monthOf(from).split('-').map(Number);
  const [endYears = 0, endMonths = 0] = monthOf(to).split('-').map(Number);
  const length = (endYears - years) * 12 + endMonths - months;
  return { from: start, to: lastDayOf(monthOf(addMonths(`${monthOf(start)}-01`, length))) };
}
