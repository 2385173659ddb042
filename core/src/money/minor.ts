/**
 * An amount in the minor unit of its currency (cents for EUR): a safe integer, never a fraction.
 * Sign is the account holder's view: in is positive, out is negative.
 */
export type Minor = number;

/** No single amount is larger: sums of very many such are exact still. */
export const mostMinor = 10_000_000_000_000;

const WITHOUT_DECIMALS = new Set(
  'BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF'.split(' '),
);
const THREE_DECIMALS = new Set('BHD IQD JOD KWD LYD OMR TND'.split(' '));

/**
 * How many decimals a currency's minor unit has (ISO 4217).
 *
 * @example minorDigits('EUR') // 2
 * @example minorDigits('JPY') // 0
 */
export function minorDigits(currency: string): number {
  if (WITHOUT_DECIMALS.has(currency)) return 0;
  return THREE_DECIMALS.has(currency) ? 3 : 2;
}

/**
 * The sum of amounts.
 *
 * @example sumMinor([-4850, 1000]) // -3850
 */
export function sumMinor(amounts: Iterable<Minor>): Minor {
  let sum = 0;
  for (const amount of amounts) sum += amount;
  return sum;
}

/** The sum of the amounts of some things. @example sumOf([{ amount: -4850 }, { amount: 1000 }]) // -3850 */
export function sumOf(things: Iterable<{ readonly amount: Minor }>): Minor {
  let sum = 0;
  for (const { amount } of things) sum += amount;
  return sum;
}

/**
 * `numerator / denominator` as an integer, rounded half away from zero.
 *
 * @example roundedQuotient(5n, 2n) // 3
 * @example roundedQuotient(-5n, 2n) // -3
 */
export function roundedQuotient(numerator: bigint, denominator: bigint): number {
  const negative = numerator < 0n !== denominator < 0n;
  const top = numerator < 0n ? -numerator : numerator;
  const bottom = denominator < 0n ? -denominator : denominator;
  const size = Number((2n * top + bottom) / (2n * bottom));
  return negative && size !== 0 ? -size : size;
}
