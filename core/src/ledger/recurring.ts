import {
  addMonths,
  type CalendarDate,
  lastDayOf,
  lastYear,
  monthOf,
} from '../dates/calendarDate.ts';

/** How often a journal recurs. */
export const rhythms = ['month', 'quarter', 'year'] as const;
export type Rhythm = (typeof rhythms)[number];

const MONTHS: Readonly<Record<Rhythm, number>> = { month: 1, quarter: 3, year: 12 };

/** The dates of a recurring journal. */
export interface Recurrence {
  readonly rhythm: Rhythm;
  readonly startDate: CalendarDate;
  /** The last day that it may fall on; null where it goes on. */
  readonly endDate: CalendarDate | null;
}

/**
 * The n-th date of a recurring journal, counted from its start: the same day of the month, or the last day where the
 * month has no such day. What starts on the last day of a month always falls on the last day.
 *
 * @param n the first is 0
 *
 * @example recurringDate({ rhythm: 'month', startDate: '2026-01-30', endDate: null }, 1) // '2026-02-28'
 * @example recurringDate({ rhythm: 'month', startDate: '2026-02-28', endDate: null }, 1) // '2026-03-31'
 */
export function recurringDate({ rhythm, startDate }: Recurrence, n: number): CalendarDate {
  const date = addMonths(startDate, n * MONTHS[rhythm]);
  const isAtEnd = startDate === lastDayOf(monthOf(startDate));
  return isAtEnd ? lastDayOf(monthOf(date)) : date;
}

/**
 * The dates of a recurring journal up to a day, the first one first.
 *
 * @param isDone whether a date was posted or skipped: it is left out
 */
export function dueDates(
  recurrence: Recurrence,
  to: CalendarDate,
  isDone: (date: CalendarDate) => boolean,
): CalendarDate[] {
  const { endDate } = recurrence;
  const end = endDate !== null && endDate < to ? endDate : to;
  const dates: CalendarDate[] = [];
  for (let n = 0; ; n += 1) {
    const date = recurringDate(recurrence, n);
    if (date > end) return dates;
    if (!isDone(date)) dates.push(date);
  }
}

/**
 * The first date after a day that was neither posted nor skipped; null where the journal has ended.
 *
 * @param isDone whether a date was posted or skipped
 */
export function nextDate(
  recurrence: Recurrence,
  after: CalendarDate,
  isDone: (date: CalendarDate) => boolean,
): CalendarDate | null {
  for (let n = 0; ; n += 1) {
    const date = recurringDate(recurrence, n);
    if (date > (recurrence.endDate ?? `${lastYear}-12-31`)) return null;
    if (date > after && !isDone(date)) return date;
  }
}

/** Whether a recurring journal falls on a date. */
export function fallsOn(recurrence: Recurrence, date: CalendarDate): boolean {
  return dueDates(recurrence, date, () => false).at(-1) === date;
}
