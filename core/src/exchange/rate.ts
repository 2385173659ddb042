import { fail } from '../errors.ts';
import { type Minor, minorDigits, mostMinor, roundedQuotient } from '../money/minor.ts';

/**
 * How much of the books' currency one unit of another currency is worth: a decimal above zero with at most twelve
 * decimals, so that amounts come out exact to the minor unit.
 *
 * @example '0.923190546529'
 */
export type Rate = string;

/** How many days old the rate of a day may be: over holidays none is published. */
export const OLDEST_RATE = 10;

/** By so much of it what came in may differ from what the rate of the day says: banks take their own rates. */
export const BANK_SHARE = 0.1;

/** Whether an amount is within a share of another. @example isWithin(95, 100, 0.05) // true */
export function isWithin(amount: Minor, other: Minor, share: number): boolean {
  return Math.abs(amount - other) <= share * Math.abs(other);
}

/** Decimals that a rate is kept with. */
const DECIMALS = 12;
const WHOLE = 10n ** BigInt(DECIMALS);

const WRITTEN = /^(\d{1,9})(?:[.,](\d{1,12}))?$/;

/** A rate as it may be written; null where it can't be read or is nil. @example parseRate('1,0832') // '1.0832' */
export function parseRate(text: string): Rate | null {
  const match = WRITTEN.exec(text.trim());
  if (!match) return null;
  const scaled = BigInt((match[1] ?? '') + (match[2] ?? '').padEnd(DECIMALS, '0'));
  return scaled === 0n ? null : written(scaled);
}

/** The same rate the other way round, to twelve decimals. @example inverseRate('1.25') // '0.8' */
export function inverseRate(rate: Rate): Rate {
  return crossRate('1', rate);
}

/**
 * A rate by two others of one base, to twelve decimals.
 *
 * @param own how much of the books' currency one unit of the base is worth
 * @param other how much of the other currency one unit of the base is worth
 */
export function crossRate(own: Rate, other: Rate): Rate {
  const [top, bottom] = [scaledOf(own) * WHOLE, scaledOf(other)];
  return written((2n * top + bottom) / (2n * bottom));
}

/**
 * An amount in the books' currency, rounded to its minor unit, half away from zero.
 *
 * @param amount in minor units of the other currency
 * @param from the other currency, ISO 4217
 * @param to the books' currency
 * @throws {ZubrellError} AMOUNT_TOO_LARGE
 * @example inBooksCurrency(10_000, '0.92345', 'USD', 'EUR') // 9_235
 */
export function inBooksCurrency(amount: Minor, rate: Rate, from: string, to: string): Minor {
  return scaled(amount, scaledOf(rate), WHOLE, minorDigits(to) - minorDigits(from));
}

/**
 * An amount of the books' currency in another, rounded to its minor unit, half away from zero.
 *
 * @param from the books' currency
 * @throws {ZubrellError} AMOUNT_TOO_LARGE
 * @example inOtherCurrency(9_235, '0.92345', 'EUR', 'USD') // 10_001
 */
export function inOtherCurrency(amount: Minor, rate: Rate, from: string, to: string): Minor {
  return scaled(amount, WHOLE, scaledOf(rate), minorDigits(to) - minorDigits(from));
}

/**
 * The rate that two amounts of the same worth say, to twelve decimals.
 *
 * @example rateOf(108_210, 'USD', 100_000, 'EUR') // '0.92412900841'
 */
export function rateOf(amount: Minor, from: string, own: Minor, to: string): Rate {
  const shift = BigInt(minorDigits(from) - minorDigits(to));
  const [up, down] = shift >= 0n ? [10n ** shift, 1n] : [1n, 10n ** -shift];
  const top = BigInt(Math.abs(own)) * WHOLE * up;
  const bottom = BigInt(Math.abs(amount)) * down;
  return written((2n * top + bottom) / (2n * bottom));
}

function scaled(amount: Minor, top: bigint, bottom: bigint, shift: number): Minor {
  const [up, down] = shift >= 0 ? [10n ** BigInt(shift), 1n] : [1n, 10n ** BigInt(-shift)];
  const value = roundedQuotient(BigInt(amount) * top * up, bottom * down);
  if (Math.abs(value) > mostMinor) fail('AMOUNT_TOO_LARGE', { text: String(value) });
  return value;
}

function scaledOf(rate: Rate): bigint {
  const [whole = '0', fraction = ''] = rate.split('.');
  return BigInt(whole + fraction.padEnd(DECIMALS, '0'));
}

function written(value: bigint): Rate {
  const text = String(value).padStart(DECIMALS + 1, '0');
  const fraction = text.slice(-DECIMALS).replace(/0+$/, '');
  const whole = text.slice(0, -DECIMALS);
  return fraction === '' ? whole : `${whole}.${fraction}`;
}
