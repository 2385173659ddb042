import { fail } from '../errors.ts';
import { type Minor, minorDigits } from './minor.ts';

/** Which mark separates decimals. `either`: one mark only, so no thousands separators. */
export type DecimalMark = '.' | ',' | 'either';

const PLAIN = /^([+\-−]?)(\d{0,15})(?:[.,](\d{0,6}))?$/;
const GROUPED_DOT = /^\d{1,3}(?:([, '’\u00a0\u202f])\d{3})(?:\1\d{3})*(?:\.\d*)?$/;
const GROUPED_COMMA = /^\d{1,3}(?:([. '’\u00a0\u202f])\d{3})(?:\1\d{3})*(?:,\d*)?$/;

/**
 * Reads an amount exactly, without passing through floating point.
 *
 * Takes a sign in front or behind, parentheses for a negative amount, and thousands separators in
 * whole groups of three.
 *
 * @param text the amount as written
 * @param decimal the decimal mark the file or form uses
 * @param currency ISO 4217 code; gives the number of decimals
 * @returns the amount in minor units, with the sign as written
 * @throws {ZubrellError} AMOUNT_UNREADABLE, AMOUNT_TOO_FINE, AMOUNT_TOO_LARGE
 * @example parseAmount('1.234,50', ',', 'EUR') // 123450
 * @example parseAmount('-48.5', '.', 'EUR') // -4850
 */
export function parseAmount(text: string, decimal: DecimalMark, currency: string): Minor {
  const digits = minorDigits(currency);
  const quick = quickAmount(text, decimal, digits);
  if (quick !== null) return quick;
  const trimmed = text.trim();
  const plain = PLAIN.exec(trimmed);
  if (plain && (decimal === 'either' || !trimmed.includes(decimal === '.' ? ',' : '.'))) {
    return compose(plain[1] !== '' && plain[1] !== '+', plain[2] ?? '', plain[3] ?? '');
  }
  let rest = trimmed;
  let negative = false;
  if (/^\(.*\)$/.test(rest)) {
    negative = true;
    rest = rest.slice(1, -1).trim();
  } else {
    const sign = /^[+\-−]/.exec(rest)?.[0] ?? /[+\-−]$/.exec(rest)?.[0];
    if (sign) {
      negative = sign !== '+';
      rest = (rest.startsWith(sign) ? rest.slice(1) : rest.slice(0, -1)).trim();
    }
  }
  const mark = decimal === ',' ? ',' : '.';
  const grouped = decimal !== 'either' && (mark === ',' ? GROUPED_COMMA : GROUPED_DOT).test(rest);
  const ungrouped = mark === ',' ? /^\d*(?:,\d*)?$/ : /^\d*(?:\.\d*)?$/;
  if (decimal === 'either' ? !/^\d*(?:[.,]\d*)?$/.test(rest) : !grouped && !ungrouped.test(rest)) {
    unreadable();
  }
  const at = decimal === 'either' ? rest.search(/[.,]/) : rest.indexOf(mark);
  const whole = (at < 0 ? rest : rest.slice(0, at)).replace(/\D/g, '');
  return compose(negative, whole, at < 0 ? '' : rest.slice(at + 1));

  function compose(isNegative: boolean, whole: string, fraction: string): Minor {
    if (whole === '' && fraction === '') unreadable();
    const excess = fraction.slice(digits);
    if (/[1-9]/.test(excess)) fail('AMOUNT_TOO_FINE', { text: trimmed, digits, currency });
    const size = Number(whole + fraction.slice(0, digits).padEnd(digits, '0'));
    if (!Number.isSafeInteger(size)) fail('AMOUNT_TOO_LARGE', { text: trimmed });
    return isNegative && size !== 0 ? -size : size;
  }

  function unreadable(): never {
    const example =
      digits === 0 ? '48' : `48${decimal === ',' ? ',' : '.'}${'50'.padEnd(digits, '0')}`;
    fail('AMOUNT_UNREADABLE', { text: trimmed, example });
  }
}

const MINUS = 45;
const ZERO = 48;
const NINE = 57;
/** So many digits are always a safe integer. */
const SAFE_DIGITS = 15;

/**
 * Reads the plainest form, `-48.50` with exactly the currency's decimals, without a pattern: large
 * files are full of it. Null for every other form, right or wrong.
 */
function quickAmount(text: string, decimal: DecimalMark, digits: number): Minor | null {
  const start = text.charCodeAt(0) === MINUS ? 1 : 0;
  const mark = text.length - digits - 1;
  if (digits === 0 || mark <= start || text.length - start > SAFE_DIGITS) return null;
  const separator = text[mark];
  if (
    separator !== decimal &&
    !(decimal === 'either' && (separator === '.' || separator === ','))
  ) {
    return null;
  }
  let size = 0;
  for (let at = start; at < text.length; at += 1) {
    if (at === mark) continue;
    const code = text.charCodeAt(at);
    if (code < ZERO || code > NINE) return null;
    size = size * 10 + code - ZERO;
  }
  return start === 1 && size !== 0 ? -size : size;
}
