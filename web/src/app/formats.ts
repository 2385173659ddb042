import type { Step } from '@zubrell/contract/desk';
import {
  type CalendarDate,
  formatDate as dateShown,
  formatLongDate as longDateShown,
} from '@zubrell/core/dates/calendarDate';
import { readTypedDate } from '@zubrell/core/dates/typedDate';
import {
  type AmountFormat,
  formatAmount as amountShown,
  toDecimal,
} from '@zubrell/core/money/formatAmount';
import { parseAmount } from '@zubrell/core/money/parseAmount';
import type { Locale } from '@zubrell/core/people/locales';
import { type Formats, formatsOf, usualFormats } from '@zubrell/core/text/formats';
import { saidWords } from '@zubrell/core/words/say';
import { counted as countedIn } from '@zubrell/core/words/t';

/** How who is signed in reads and writes dates and amounts; all that shows them is drawn anew when it changes. */
let formats: Formats = usualFormats;

/** Shows and reads dates and amounts from now on as a locale has them. */
export function applyLocale(locale: Locale): void {
  formats = formatsOf(locale);
}

/** Whether the user's weeks begin on Sunday, as they do where the month is written first. */
export function beginsOnSunday(): boolean {
  return formats.dateOrder === 'monthFirst';
}

/** A date as lists show it. @example formatDate('2025-03-03', 2026) // '03 Mar 2025' */
export function formatDate(date: CalendarDate, currentYear: number): string {
  return dateShown(date, currentYear, formats.dateOrder);
}

/** A date in full. @example formatLongDate('2026-03-03') // '3 March 2026' */
export function formatLongDate(date: CalendarDate): string {
  return longDateShown(date, formats.dateOrder);
}

/** A date that is typed. @throws {ZubrellError} where there is no such date */
export function readDate(text: string, today: CalendarDate): CalendarDate {
  return readTypedDate(text, formats.dateOrder, today);
}

/** An amount as people read it, without its currency. @example formatAmount(-123450, 'EUR') // '−1,234.50' */
export function formatAmount(
  minor: number,
  currency: string,
  options: Omit<AmountFormat, 'marks'> = {},
): string {
  return amountShown(minor, currency, { ...options, marks: formats });
}

/** An amount as it is typed: without groups. @example editedAmount(-123450, 'EUR') // '-1234.50' */
export function editedAmount(minor: number, currency: string): string {
  return toDecimal(minor, currency).replace('.', formats.decimal);
}

/** An amount that is typed, in minor units. @throws {ZubrellError} where it can't be read */
export function readAmount(text: string, currency: string): number {
  return parseAmount(text, formats.decimal, currency);
}

/** How many there are of something. @example counted(2_340, 'entry', 'entries') // '2,340 entries' */
export function counted(count: number, one: string, other: string): string {
  return countedIn(count, one, other, formatCount(count));
}

/** @example countLines(2_340) // '2,340 lines' */
export function countLines(count: number): string {
  return counted(count, 'line', 'lines');
}

/** A whole number with its thousands apart. */
export function formatCount(count: number): string {
  return String(count).replace(/\B(?=(\d{3})+$)/g, formats.group);
}

/** A number with two decimals. @example formatDecimal(0.237) // '0.24' */
export function formatDecimal(value: number): string {
  return value.toFixed(2).replace('.', formats.decimal);
}

/** What a step says, in words, with dates and amounts as the user writes them. */
export function stepWords({ words, said }: Pick<Step, 'words' | 'said'>): string {
  return said === null ? words : saidWords(said, formats);
}
