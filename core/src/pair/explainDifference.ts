import { type Minor, roundedQuotient } from '../money/minor.ts';
import type { AmountReason } from './pairing.ts';

/** A difference with what would explain it. */
export interface ExplainedDifference {
  /** How much more the bank's side is than the books'. */
  readonly by: Minor;
  readonly because: AmountReason | null;
  /** What is missing: the other amount that makes up the difference; by its place in what was given. */
  readonly missing: number | null;
}

/** Up to so much of a receipt, in hundredths of a percent, may have been kept back as a fee. */
const LARGEST_FEE = 600;

/**
 * Explains why a line and what should be the same in the books differ.
 *
 * @param bank what the bank moved, in positive, out negative
 * @param books what it should be
 * @param rates tax rates of the books, in hundredths of a percent
 * @param others amounts that may have been left out on the books' side
 * @example explainDifference(64000, 60400, [], []).because // 'transposed'
 * @example explainDifference(-12000, -10000, [2000], []).because // 'taxOff'
 * @example explainDifference(9860, 10000, [], []).because // 'fee'
 */
export function explainDifference(
  bank: Minor,
  books: Minor,
  rates: readonly number[],
  others: readonly Minor[],
): ExplainedDifference {
  const by = bank - books;
  const said = (because: AmountReason | null, missing: number | null = null) => ({
    by,
    because,
    missing,
  });
  if (by === 0) return said(null);
  if (bank === -books) return said('sign');
  const missing = others.indexOf(by);
  if (missing >= 0) return said('missing', missing);
  if (Math.sign(bank) !== Math.sign(books)) return said(null);
  if (isTransposed(bank, books)) return said('transposed');
  if (bank === books * 10 || books === bank * 10) return said('decimal');
  if (bank === books * 100 || books === bank * 100) return said('decimal');
  if (rates.some((rate) => rate > 0 && isTaxOff(bank, books, rate))) return said('taxOff');
  if (differsByOneDigit(bank, books)) return said('digit');
  if (isFee(bank, books)) return said('fee');
  return said(null);
}

/** Whether two neighbouring digits were swapped. @example isTransposed(64000, 60400) // true */
export function isTransposed(a: Minor, b: Minor): boolean {
  if (a === b || (a - b) % 9 !== 0) return false;
  const [left, right] = digitsOf(a, b);
  const at = [...left].findIndex((digit, index) => digit !== right[index]);
  return (
    left[at] === right[at + 1] &&
    left[at + 1] === right[at] &&
    left.slice(at + 2) === right.slice(at + 2)
  );
}

function differsByOneDigit(a: Minor, b: Minor): boolean {
  const [left, right] = digitsOf(a, b);
  if (left.length < 4 || left.startsWith('0') || right.startsWith('0')) return false;
  return [...left].filter((digit, index) => digit !== right[index]).length === 1;
}

function digitsOf(a: Minor, b: Minor): readonly [string, string] {
  const [left, right] = [String(Math.abs(a)), String(Math.abs(b))];
  const width = Math.max(left.length, right.length);
  return [left.padStart(width, '0'), right.padStart(width, '0')];
}

function isTaxOff(a: Minor, b: Minor, rate: number): boolean {
  const [net, gross] = Math.abs(a) < Math.abs(b) ? [a, b] : [b, a];
  const withTax = roundedQuotient(BigInt(net) * BigInt(10_000 + rate), 10_000n);
  return Math.abs(withTax - gross) <= 1;
}

/** Less came in, or more went out, by no more than a fee usually is. */
function isFee(bank: Minor, books: Minor): boolean {
  const kept = books - bank;
  return kept > 0 && kept * 10_000 <= Math.abs(books) * LARGEST_FEE;
}
