import { type Minor, roundedQuotient } from './minor.ts';

/**
 * The tax inside a gross amount: gross × rate / (100 + rate), rounded half away from zero.
 *
 * @param gross amount including tax, signed
 * @param basisPoints the rate in hundredths of a percent (2000 = 20 %)
 * @returns the tax, with the sign of `gross`
 * @example taxInside(-4850, 2000) // -808
 */
export function taxInside(gross: Minor, basisPoints: number): Minor {
  return roundedQuotient(BigInt(gross) * BigInt(basisPoints), BigInt(10_000 + basisPoints));
}

/**
 * A rate applied to a net amount, as for reverse charge.
 *
 * @example taxOn(10000, 2000) // 2000
 */
export function taxOn(net: Minor, basisPoints: number): Minor {
  return roundedQuotient(BigInt(net) * BigInt(basisPoints), 10_000n);
}
