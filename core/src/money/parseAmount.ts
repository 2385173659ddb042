import { fail } from '../errors.ts';
import { type Minor, minorDigits, mostMinor } from './minor.ts';

/** Which mark separates decimals where the amount itself leaves it open. `either`: not known. */
export type DecimalMark = '.' | ',' | 'either';

const PLAIN = /^([+\-−]?)(\d{0,15})(?:[.,](\d{0,6}))?$/;
const GROUPED = /^\d{1,3}(?:([., '’\u00a0\u2009\u202f])\d{3})(?:\1\d{3})*$/;
const SYMBOL = /^[€$£¥]\s*|\s*[€$£¥]$/;
/** The side a bank writes beside an amount instead of a sign. */
const SIDE = /^(dr|cr)\.?(?=[\s\d(])\s*|\s*(dr|cr|[dc])\.?$/i;

/**
 * Reads an amount exactly, without passing through floating point.
 *
 * Takes a sign in front or behind, parentheses for a negative amount, DR (paid out) and CR (paid in),
 * the currency's code or symbol, and thousands separators in whole groups of three. The last point or
 * comma is the decimal mark where one or two digits follow it, or where the other mark stands before
 * it; else the file's mark decides.
 *
 * @param text the amount as written
 * @param decimal the decimal mark the file or form uses
 * @param currency ISO 4217 code; gives the number of decimals
 * @returns the amount in minor units, with the sign as written
 * @throws {ZubrellError} AMOUNT_UNREADABLE, AMOUNT_TOO_FINE, AMOUNT_TOO_LARGE
 * @example parseAmount('1.234,50', ',', 'EUR') // 123450
 * @example parseAmount('1,006.60 DR', ',', 'EUR') // -100660
 */
export function parseAmount(text: string, decimal: DecimalMark, currency: string): Minor {
  const digits = minorDigits(currency);
  const quick = quickAmount(text, decimal, digits);
  if (quick !== null) return quick;
  const trimmed = text.trim();
  const plain = PLAIN.exec(trimmed);
  if (plain && isDecimal(trimmed, decimal)) {
    return compose(plain[1] !== '' && plain[1] !== '+', plain[2] ?? '', plain[3] ?? '');
  }
  if (trimmed.length > LONGEST) unreadable();
  const { isNegative, figure } = withoutSign(trimmed, currency) ?? unreadable();
  const at = decimalAt(figure, decimal);
  const whole = at < 0 ? figure : figure.slice(0, at);
  const fraction = at < 0 ? '' : figure.slice(at + 1);
  const isGrouped = GROUPED.exec(whole);
  if (!/^\d*$/.test(fraction) || !(isGrouped || /^\d*$/.test(whole))) unreadable();
  if (isGrouped && at >= 0 && isGrouped[1] === figure[at]) unreadable();
  return compose(isNegative, whole.replace(/\D/g, ''), fraction);

  function compose(isNegative: boolean, whole: string, fraction: string): Minor {
    if (whole === '' && fraction === '') unreadable();
    const excess = fraction.slice(digits);
    if (/[1-9]/.test(excess)) fail('AMOUNT_TOO_FINE', { text: shown(), digits, currency });
    const size = Number(whole + fraction.slice(0, digits).padEnd(digits, '0'));
    if (size > mostMinor) fail('AMOUNT_TOO_LARGE', { text: shown() });
    return isNegative && size !== 0 ? -size : size;
  }

  function unreadable(): never {
    const example =
      digits === 0 ? '48' : `48${decimal === ',' ? ',' : '.'}${'50'.padEnd(digits, '0')}`;
    fail('AMOUNT_UNREADABLE', { text: shown(), example });
  }

  function shown(): string {
    return trimmed.length <= LONGEST ? trimmed : `${trimmed.slice(0, LONGEST)}…`;
  }
}

/** No amount is written longer; so much of what can't be read is repeated. */
const LONGEST = 60;

/** Takes off what stands around the figure. Null where it says the same thing in two ways. */
function withoutSign(
  text: string,
  currency: string,
): { readonly isNegative: boolean; readonly figure: string } | null {
  let rest = withoutCurrency(text, currency);
  const side = SIDE.exec(rest);
  if (side) rest = rest.replace(SIDE, '').trim();
  const brackets = /^([+\-−]?)\s*\((.*)\)$/.exec(rest);
  if (brackets) rest = (brackets[2] ?? '').trim();
  const sign = brackets?.[1] || (/^[+\-−]/.exec(rest)?.[0] ?? /[+\-−]$/.exec(rest)?.[0]);
  if (sign) rest = rest.replace(rest.startsWith(sign) ? /^./ : /[+\-−]$/, '').trim();
  const figure = withoutCurrency(rest, currency);
  const isMinus = brackets !== null || (sign !== undefined && sign !== '+');
  if (!side) return { isNegative: isMinus, figure };
  const isOut = /^d/i.test(side[1] ?? side[2] ?? '');
  // “−48.50 CR” would be paid out and paid in.
  return isMinus && !isOut ? null : { isNegative: isOut, figure };
}

function withoutCurrency(text: string, currency: string): string {
  const rest = text.replace(SYMBOL, '');
  const upper = rest.toUpperCase();
  if (upper.startsWith(currency)) return rest.slice(currency.length).trim();
  return upper.endsWith(currency) ? rest.slice(0, -currency.length).trim() : rest;
}

/** Where the decimal mark of a figure is, or -1. */
function decimalAt(figure: string, decimal: DecimalMark): number {
  const at = Math.max(figure.lastIndexOf('.'), figure.lastIndexOf(','));
  if (at < 0) return -1;
  const mark = figure[at];
  const behind = figure.length - at - 1;
  const isOnly = figure.indexOf(mark ?? '') === at;
  if (!isOnly) return -1;
  const hasOther = figure.includes(mark === '.' ? ',' : '.');
  const isMark = behind === 1 || behind === 2 || hasOther || decimal === 'either';
  return isMark || mark === decimal ? at : -1;
}

/** Whether the one mark of a plain figure, if any, separates decimals. */
function isDecimal(text: string, decimal: DecimalMark): boolean {
  return !/[.,]/.test(text) || decimalAt(text, decimal) >= 0;
}

const MINUS = 45;
const ZERO = 48;
const NINE = 57;
/** With the decimal mark, an amount of so many characters is within the largest. */
const SAFE_LENGTH = 14;

/**
 * Reads the plainest form, `-48.50` with exactly the currency's decimals, without a pattern: large
 * files are full of it. Null for every other form, right or wrong.
 */
function quickAmount(text: string, decimal: DecimalMark, digits: number): Minor | null {
  const start = text.charCodeAt(0) === MINUS ? 1 : 0;
  const mark = text.length - digits - 1;
  if (digits === 0 || mark <= start || text.length - start > SAFE_LENGTH) return null;
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
