import { fail } from '../errors.ts';
import {
  type CalendarDate,
  calendarDate,
  type DateOrder,
  monthName,
  monthNames,
  monthOf,
} from './calendarDate.ts';

const MONTHS = monthNames.map((_, at) => monthName(at + 1).toLowerCase());
const DIGITS = /^(\d{2})(\d{2})(\d{2}|\d{4})?$/;
const YEAR_FIRST = /^\d{4}\D/;

/**
 * Reads a date as people type it: in their own order, with or without the year, in digits or with the month's name.
 * What is left out is taken from today.
 *
 * @throws {ZubrellError} DATE_MISSING, DATE_UNREADABLE, DATE_UNREAL, DATE_TOO_FAR
 * @example readTypedDate('3/4', 'dayFirst', '2026-11-29') // '2026-04-03'
 * @example readTypedDate('Apr 3, 2025', 'dayFirst', '2026-11-29') // '2025-04-03'
 * @example readTypedDate('7', 'dayFirst', '2026-11-29') // '2026-11-07'
 */
export function readTypedDate(text: string, order: DateOrder, today: CalendarDate): CalendarDate {
  const typed = text.trim().toLowerCase();
  if (typed === '') fail('DATE_MISSING');
  if (typed === 'today') return today;
  const parts = partsOf(typed);
  const name = parts.find((part) => /[a-z]/.test(part));
  if (parts.length === 0 || parts.length > 3) unreadable();
  const thisYear = Number(today.slice(0, 4));
  if (name !== undefined) {
    const month = monthNamed(name) ?? unreadable();
    const [day, year] = parts.filter((part) => part !== name).map(numberOf);
    if (day === undefined) unreadable();
    return calendarDate(fullYear(year) ?? thisYear, month, day);
  }
  const numbers = parts.map(numberOf);
  const isYearFirst = YEAR_FIRST.test(typed) || (order === 'yearFirst' && numbers.length === 3);
  const [first = 0, second, third] = isYearFirst ? [...numbers.slice(1), numbers[0]] : numbers;
  if (second === undefined) return calendarDate(thisYear, Number(monthOf(today).slice(5)), first);
  const isDayFirst = order === 'dayFirst' && !isYearFirst;
  const [day, month] = isDayFirst ? [first, second] : [second, first];
  return calendarDate(fullYear(third) ?? thisYear, month, day);

  function unreadable(): never {
    fail('DATE_UNREADABLE', { text: text.trim() });
  }

  function numberOf(part: string): number {
    return /^\d{1,4}$/.test(part) ? Number(part) : unreadable();
  }
}

/** Day, month and year apart, in the order in which they stand. */
function partsOf(typed: string): readonly string[] {
  const together = DIGITS.exec(typed);
  if (together) return together.slice(1).filter((part) => part !== undefined);
  return typed.split(/[\s./,-]+|(?<=\d)(?=[a-z])|(?<=[a-z])(?=\d)/).filter((part) => part !== '');
}

/** A month by its name, or at least three letters of it. */
function monthNamed(name: string): number | null {
  const at = MONTHS.findIndex((month) => name.length >= 3 && month.startsWith(name));
  return at < 0 ? null : at + 1;
}

function fullYear(year: number | undefined): number | undefined {
  return year === undefined || year > 99 ? year : 2000 + year;
}
