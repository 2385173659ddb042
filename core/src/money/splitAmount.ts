import { fail } from '../errors.ts';
import { type Minor, roundedQuotient, sumMinor } from './minor.ts';

/**
 * One part of a split.
 * - `fixed`: an amount of either sign, taken first.
 * - `percent`: a share of what the fixed parts leave, in hundredths of a percent (2500 = 25 %).
 * - `rest`: all that is left; stands for one part of 100 %.
 * - `grossUp`: what was taken off the gross before the line arrived, in hundredths of a percent of
 *   that gross (gross = net / (1 − rate)). Its sign is opposite to the line's.
 */
export type SplitPart =
  | { readonly kind: 'fixed'; readonly amount: Minor }
  | { readonly kind: 'percent'; readonly basisPoints: number }
  | { readonly kind: 'rest' }
  | { readonly kind: 'grossUp'; readonly basisPoints: number };

const WHOLE = 10_000;

/**
 * Splits a line into parts that add up to it exactly, by the largest-remainder method.
 *
 * @param line the line's amount, signed
 * @returns one amount a part, in the order of the parts; they add up to `line`
 * @throws {ZubrellError} SPLIT_EMPTY, SPLIT_FIXED_TOO_LARGE, SPLIT_PERCENT, SPLIT_NOT_WHOLE, SPLIT_RATE
 * @example splitAmount(-1000, [{ kind: 'fixed', amount: -1 }, { kind: 'rest' }]) // [-1, -999]
 * @example splitAmount(9700, [{ kind: 'grossUp', basisPoints: 300 }, { kind: 'rest' }]) // [-300, 10000]
 */
export function splitAmount(line: Minor, parts: readonly SplitPart[]): Minor[] {
  if (parts.length === 0) fail('SPLIT_EMPTY');
  const fixed = sumMinor(parts.map((part) => (part.kind === 'fixed' ? part.amount : 0)));
  const deductions = deductedBefore(line, parts);
  const remainder = line - fixed - sumMinor(deductions);
  const shares = parts.map((part) =>
    part.kind === 'percent' ? part.basisPoints : part.kind === 'rest' ? WHOLE : 0,
  );
  const shareSum = sumMinor(shares);
  if (parts.every((part) => part.kind === 'fixed' || part.kind === 'grossUp')) {
    if (remainder !== 0) {
      fail('SPLIT_NOT_WHOLE', { parts: line - remainder, line, rest: remainder });
    }
  } else {
    if (shareSum !== WHOLE) fail('SPLIT_PERCENT', { sum: shareSum / 100 });
    if (remainder !== 0 && remainder < 0 !== line < 0) {
      fail('SPLIT_FIXED_TOO_LARGE', { fixed, line });
    }
  }
  const shared = largestRemainder(remainder, shares);
  return parts.map((part, index) =>
    part.kind === 'fixed' ? part.amount : (deductions[index] ?? 0) + (shared[index] ?? 0),
  );
}

/** What each gross-up part took off before the line arrived; zero for the other parts. */
function deductedBefore(line: Minor, parts: readonly SplitPart[]): Minor[] {
  const rates = parts.map((part) => (part.kind === 'grossUp' ? part.basisPoints : 0));
  const rate = sumMinor(rates);
  if (rates.some((each) => each < 0) || rate >= WHOLE) fail('SPLIT_RATE', { rate: rate / 100 });
  if (rate === 0) return rates;
  const gross = roundedQuotient(BigInt(line) * BigInt(WHOLE), BigInt(WHOLE - rate));
  return largestRemainder(line - gross, rates);
}

/**
 * Shares an amount by weights so that the shares add up exactly: each gets its whole part, and the
 * units left over go to the largest remainders, the earlier part first.
 *
 * @example largestRemainder(100, [1, 1, 1]) // [34, 33, 33]
 */
export function largestRemainder(amount: Minor, weights: readonly number[]): Minor[] {
  const total = BigInt(sumMinor(weights));
  if (total === 0n) return weights.map(() => 0);
  const size = BigInt(Math.abs(amount));
  const exact = weights.map((weight) => size * BigInt(weight));
  const shares = exact.map((each) => Number(each / total));
  const order = exact
    .map((each, index) => ({ index, left: each % total }))
    .sort((a, b) => (a.left === b.left ? a.index - b.index : a.left < b.left ? 1 : -1));
  let missing = Math.abs(amount) - sumMinor(shares);
  for (const { index } of order) {
    if (missing === 0) break;
    shares[index] = (shares[index] ?? 0) + 1;
    missing -= 1;
  }
  return amount < 0 ? shares.map((share) => (share === 0 ? 0 : -share)) : shares;
}
