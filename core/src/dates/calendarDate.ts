import { fail } from '../errors.ts';
import { textOf } from '../words/t.ts';

/** A calendar date as `YYYY-MM-DD`, without a time zone. Compares as text. */
export type CalendarDate = string;

/** The order of day, month and year in written dates. */
export type DateOrder = 'yearFirst' | 'dayFirst' | 'monthFirst';

/** The months by their names, January first. */
export const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const;

/** What a month is called by whoever reads. @param month 1 is January */
export const monthName = (month: number): string => textOf(monthNames[month - 1] ?? '');

/** The first and the last year that a date can have, in files, by hand and on the wire. */
export const firstYear = 1970;
export const lastYear = 2100;

/**
 * A calendar date from its numbers.
 *
 * @throws {ZubrellError} DATE_UNREAL, DATE_UNREADABLE, DATE_TOO_FAR
 * @example calendarDate(2026, 3, 3) // '2026-03-03'
 */
export function calendarDate(year: number, month: number, day: number): CalendarDate {
  const name = monthNames[month - 1];
  if (name === undefined) fail('DATE_UNREADABLE', { text: `${day}.${month}.${year}` });
  if (!(year >= firstYear && year <= lastYear)) {
    fail('DATE_TOO_FAR', { day, month: name, year, first: firstYear, last: lastYear });
  }
  if (!(day >= 1 && day <= daysInMonth(year, month))) fail('DATE_UNREAL', { day, month: name });
  return `${year}-${pad(month)}-${pad(day)}`;
}

/** How many days a month has (month 1 to 12). @example daysInMonth(2024, 2) // 29 */
export function daysInMonth(year: number, month: number): number {
  if (month === 2) return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0 ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}

/**
 * The date some days later, or earlier for a negative number.
 *
 * @example addDays('2026-03-01', -1) // '2026-02-28'
 */
export function addDays(date: CalendarDate, days: number): CalendarDate {
  const moved = new Date(`${date}T00:00:00Z`);
  moved.setUTCDate(moved.getUTCDate() + days);
  return moved.toISOString().slice(0, 10);
}

/**
 * The same day some months later, or earlier for a negative number; the last day of a month that has no such day.
 *
 * @example addMonths('2026-01-31', 1) // '2026-02-28'
 */
export function addMonths(date: CalendarDate, months: number): CalendarDate {
  const [year = 0, month = 0, day = 0] = date.split('-').map(Number);
  const at = year * 12 + (month - 1) + months;
  const to = `${Math.floor(at / 12)}-${pad((at % 12) + 1)}`;
  const last = lastDayOf(to);
  return day < Number(last.slice(8)) ? `${to}-${pad(day)}` : last;
}

/**
 * How many days it is from one date to another; negative where that lies before.
 *
 * @example daysBetween('2026-02-27', '2026-03-02') // 3
 */
export function daysBetween(from: CalendarDate, to: CalendarDate): number {
  return (Date.parse(to) - Date.parse(from)) / 86_400_000;
}

/** The month a date lies in, as `YYYY-MM`. @example monthOf('2026-03-31') // '2026-03' */
export function monthOf(date: CalendarDate): string {
  return date.slice(0, 7);
}

/** The last day of a month given as `YYYY-MM`. @example lastDayOf('2026-02') // '2026-02-28' */
export function lastDayOf(month: string): CalendarDate {
  const [year = 0, number = 0] = month.split('-').map(Number);
  return `${month}-${pad(daysInMonth(year, number))}`;
}

/** The months from one to another, both included. @example monthsBetween('2026-01', '2026-03') */
export function monthsBetween(first: string, last: string): string[] {
  const months: string[] = [];
  for (let month = first; month <= last; month = monthOf(addDays(lastDayOf(month), 1))) {
    months.push(month);
  }
  return months;
}

/**
 * A date as the screens show it; the year only where it differs from the current one.
 *
 * @param order whether the month comes before the day; left out, the day is first
 * @example formatDate('2026-03-03', 2026) // '03 Mar'
 * @example formatDate('2025-03-03', 2026) // '03 Mar 2025'
 * @example formatDate('2025-03-03', 2026, 'monthFirst') // 'Mar 03, 2025'
 */
export function formatDate(date: CalendarDate, currentYear: number, order?: DateOrder): string {
  const [year = '', month, day = ''] = date.split('-');
  const name = monthName(Number(month)).slice(0, 3);
  return written(day, name, Number(year) === currentYear ? '' : year, order);
}

/**
 * A date in full.
 *
 * @example formatLongDate('2026-03-03') // '3 March 2026'
 * @example formatLongDate('2026-03-03', 'monthFirst') // 'March 3, 2026'
 */
export function formatLongDate(date: CalendarDate, order?: DateOrder): string {
  const [year = '', month, day] = date.split('-');
  return written(String(Number(day)), monthName(Number(month)), year, order);
}

function written(day: string, month: string, year: string, order?: DateOrder): string {
  if (order === 'monthFirst') return `${month} ${day}${year && `, ${year}`}`;
  return `${day} ${month}${year && ` ${year}`}`;
}

/** A month in full. @example formatMonth('2026-03') // 'March 2026' */
export function formatMonth(month: string): string {
  const [year, number] = month.split('-');
  return `${monthName(Number(number))} ${year}`;
}

function pad(number: number): string {
  return number < 10 ? `0${number}` : String(number);
}
