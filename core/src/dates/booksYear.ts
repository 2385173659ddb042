import { addMonths, type CalendarDate, monthOf } from './calendarDate.ts';

/**
 * The first day of the year of books that a day is in.
 *
 * @param begins the month in which their years begin, 1 to 12
 * @example yearFrom('2026-03-14', 1) // '2026-01-01'
 * @example yearFrom('2026-03-14', 4) // '2025-04-01'
 */
export function yearFrom(date: CalendarDate, begins: number): CalendarDate {
  const month = Number(date.slice(5, 7));
  return addMonths(`${monthOf(date)}-01`, -((month - begins + 12) % 12));
}
