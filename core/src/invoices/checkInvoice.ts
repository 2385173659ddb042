import { groupBy } from '../groupBy.ts';
import { formatAmount } from '../money/formatAmount.ts';
import { type Minor, sumMinor } from '../money/minor.ts';
import { taxOn } from '../money/taxInside.ts';
import type { EInvoice } from './eInvoice.ts';

/** Taxes are rounded once for each line or once for each rate: the standard leaves a minor unit for each line. */
const LEEWAY = 1;

/**
 * What of an electronic invoice doesn't add up, in words; nothing where all of it does. By EN 16931: the lines make the
 * sum of the lines (BR-CO-10), with allowances and charges the total without tax (BR-CO-13), the taxes the tax
 * (BR-CO-14), both the total with tax (BR-CO-15), less what was prepaid the amount due (BR-CO-16), and each tax is its
 * rate of its base (BR-CO-17).
 */
export function checkInvoice(invoice: EInvoice): string[] {
  const { lines, adjustments, taxes, totals, currency } = invoice;
  const problems: string[] = [];
  const compare = (what: string, sum: Minor, said: Minor, leeway = 0) => {
    if (Math.abs(sum - said) <= leeway) return;
    const [is, says] = [sum, said].map((each) => formatAmount(each, currency));
    problems.push(`${what} come to ${is}, and the invoice says ${says}.`);
  };
  const sum = (rows: readonly { readonly net: Minor }[]) => sumMinor(rows.map(({ net }) => net));
  compare('The lines', sum(lines), totals.lines);
  compare('The lines with allowances and charges', sum(lines) + sum(adjustments), totals.net);
  compare('The taxes', sumMinor(taxes.map(({ tax }) => tax)), totals.tax);
  compare('Net and tax', totals.net + totals.tax, totals.gross);
  compare(
    'The total less what was prepaid',
    totals.gross - totals.prepaid + totals.rounding,
    totals.payable,
  );
  const taxed = groupBy([...lines, ...adjustments], ({ tax }) => `${tax.category} ${tax.rate}`);
  for (const { category, rate, net, tax } of taxes) {
    const rows = taxed.get(`${category} ${rate}`) ?? [];
    const name = rate === 0 ? 'without tax' : `taxed at ${rate / 100} %`;
    compare(`The amounts ${name}`, sum(rows), net);
    compare(
      `${rate / 100} % of ${formatAmount(net, currency)}`,
      taxOn(net, rate),
      tax,
      Math.max(LEEWAY, rows.length),
    );
  }
  return problems;
}
