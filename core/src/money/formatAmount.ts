import { type Formats, usualFormats } from '../text/formats.ts';
import { type Minor, minorDigits } from './minor.ts';

/**
 * An amount as people read it: true minus, thousands separators, and a plus for money in if asked.
 *
 * @example formatAmount(-123450, 'EUR') // '−1,234.50'
 * @example formatAmount(64000, 'EUR', { plus: true }) // '+640.00'
 */
export function formatAmount(
  amount: Minor,
  currency: string,
  { plus = false, marks = usualFormats }: AmountFormat = {},
): string {
  const sign = amount < 0 ? '−' : amount > 0 && plus ? '+' : '';
  const [whole = '', fraction] = toDecimal(Math.abs(amount), currency).split('.');
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, marks.group);
  return sign + grouped + (fraction === undefined ? '' : marks.decimal + fraction);
}

/** How an amount is written. */
export interface AmountFormat {
  /** Whether a `+` stands before positive amounts. */
  readonly plus?: boolean;
  readonly marks?: Pick<Formats, 'decimal' | 'group'>;
}

/**
 * An amount as a plain decimal string for files and programs.
 *
 * @example toDecimal(-4850, 'EUR') // '-48.50'
 * @example toDecimal(5, 'EUR') // '0.05'
 */
export function toDecimal(amount: Minor, currency: string): string {
  const digits = minorDigits(currency);
  const text = String(Math.abs(amount)).padStart(digits + 1, '0');
  const sign = amount < 0 ? '-' : '';
  if (digits === 0) return sign + text;
  return `${sign}${text.slice(0, -digits)}.${text.slice(-digits)}`;
}
