import type { DocumentLine } from '../ledger/documents.ts';
import type { TaxKind, TaxUse } from '../ledger/kinds.ts';
import { type Minor, roundedQuotient, sumMinor } from '../money/minor.ts';
import { taxInside } from '../money/taxInside.ts';
import type { EInvoice, EInvoiceLine, TaxMark } from './eInvoice.ts';

/** A tax code of the books, with its rate on the invoice's date. */
export interface KnownTaxCode {
  readonly id: string;
  readonly kind: TaxKind;
  readonly use: TaxUse;
  /** Hundredths of a percent; null where it has none on that day. */
  readonly rate: number | null;
  readonly isOn: boolean;
}

/** A line of a bill as it can be proposed: the account is whoever knows the payee's to say. */
export type ProposedLine = Pick<DocumentLine, 'text' | 'taxCodeId' | 'amount' | 'tax'>;

/** What an electronic invoice makes as a bill, or a credit note of a supplier. */
export interface ProposedBill {
  readonly lines: readonly ProposedLine[];
  /** How the books have no tax code for some of it, in words. */
  readonly untaxed: readonly string[];
}

/** A bill has no more lines: more are put together by their tax. */
const MOST_LINES = 100;

/** Which kind of tax code each category of the standard is for a purchase. */
const KINDS: Readonly<Record<string, TaxKind>> = {
  S: 'standard',
  Z: 'zero',
  E: 'exempt',
  AE: 'reverseCharge',
  K: 'reverseCharge',
  G: 'outside',
  O: 'outside',
};

/**
 * The lines of the bill that an electronic invoice is: with their tax, which comes to just the tax that the invoice
 * says, and the tax codes of the books.
 *
 * @example lines of 33.33 and 66.67 at 20 %, tax 20.00: 40.00 and 80.00
 */
export function billOf(invoice: EInvoice, codes: readonly KnownTaxCode[]): ProposedBill {
  const { totals } = invoice;
  const rounding: readonly EInvoiceLine[] =
    totals.rounding === 0
      ? []
      : [
          {
            text: 'Rounding',
            quantity: null,
            net: totals.rounding,
            tax: { category: 'O', rate: 0 },
          },
        ];
  const all = [...invoice.lines, ...invoice.adjustments].filter(({ net }) => net !== 0);
  const rows = [...(all.length > MOST_LINES ? together(all) : all), ...rounding];
  const untaxed = new Set<string>();
  const taxes = taxesOf(invoice, rows);
  const lines = rows.map(({ text, quantity, net, tax }, at): ProposedLine => {
    const code = codeFor(tax, codes);
    if (code === null && tax.category !== 'O') untaxed.add(markWords(tax));
    // Without a code for it the tax is part of the cost.
    const amount = net + (taxes[at] ?? 0);
    const line = { text: wordsOf(text, quantity), taxCodeId: code?.id ?? null, amount, tax: null };
    if (code?.kind !== 'standard') return line;
    const isComputed = taxInside(amount, code.rate ?? 0) === taxes[at];
    return isComputed ? line : { ...line, tax: taxes[at] ?? 0 };
  });
  return { lines, untaxed: [...untaxed] };
}

/** The tax of each row, so that the rows of one rate come to what the invoice says of it. */
function taxesOf(invoice: EInvoice, rows: readonly EInvoiceLine[]): readonly Minor[] {
  const taxes = rows.map(() => 0);
  for (const { category, rate, net, tax } of invoice.taxes) {
    const places = [...rows.keys()].filter(
      (at) => rows[at]?.tax.category === category && rows[at]?.tax.rate === rate,
    );
    if (net === 0 || places.length === 0) continue;
    for (const at of places) {
      taxes[at] = roundedQuotient(BigInt(rows[at]?.net ?? 0) * BigInt(tax), BigInt(net));
    }
    // What rounding leaves is shared out, a minor unit each, beginning with the largest.
    const size = (at: number) => Math.abs(rows[at]?.net ?? 0);
    const inOrder = [...places].sort((a, b) => size(b) - size(a));
    let left = tax - sumMinor(places.map((at) => taxes[at] ?? 0));
    for (let turn = 0; left !== 0; turn += 1) {
      const at = inOrder[turn % inOrder.length] ?? 0;
      taxes[at] = (taxes[at] ?? 0) + Math.sign(left);
      left -= Math.sign(left);
    }
  }
  return taxes;
}

function together(rows: readonly EInvoiceLine[]): readonly EInvoiceLine[] {
  const sums = new Map<string, EInvoiceLine & { count: number }>();
  for (const row of rows) {
    const key = `${row.tax.category} ${row.tax.rate}`;
    const sum = sums.get(key);
    sums.set(key, { ...row, net: (sum?.net ?? 0) + row.net, count: (sum?.count ?? 0) + 1 });
  }
  return [...sums.values()].map(({ count, ...row }) => ({
    ...row,
    quantity: null,
    text: count === 1 ? row.text : `${count} lines, ${markWords(row.tax)}`,
  }));
}

function codeFor({ category, rate }: TaxMark, codes: readonly KnownTaxCode[]): KnownTaxCode | null {
  const kind = KINDS[category];
  const fitting = codes.filter(
    (code) =>
      code.isOn &&
      code.use !== 'sales' &&
      code.kind === kind &&
      (kind !== 'standard' || code.rate === rate),
  );
  return fitting.find(({ use }) => use === 'purchases') ?? fitting[0] ?? null;
}

function markWords({ category, rate }: TaxMark): string {
  if (rate !== 0) return `${rate / 100} %`;
  return { Z: '0 %', E: 'exempt', AE: 'reverse charge', K: 'reverse charge' }[category] ?? 'no tax';
}

/** @example wordsOf('Stoneware', '12.0') // 'Stoneware (12)' */
function wordsOf(text: string, quantity: string | null): string {
  const count = quantity === null ? 1 : Number(quantity);
  const shown = Number.isFinite(count) && count !== 1 ? `${text} (${count})` : text;
  return shown.slice(0, 300);
}
