import { addDays, type CalendarDate, calendarDate, daysInMonth } from '../dates/calendarDate.ts';

/**
 * A bank account's cycle: statements end with the calendar month, on a day of each month (1 to 31; the last day where
 * a month is shorter), or whenever somebody says.
 */
export type Cycle =
  | { readonly kind: 'month' }
  | { readonly kind: 'day'; readonly day: number }
  | { readonly kind: 'any' };

/** First and last day of a statement. */
export interface Period {
  readonly from: CalendarDate;
  readonly to: CalendarDate;
}

/**
 * The last day of the statement that begins on a day.
 *
 * @example periodEnd({ kind: 'month' }, '2026-02-03') // '2026-02-28'
 * @example periodEnd({ kind: 'day', day: 8 }, '2026-02-09') // '2026-03-08'
 */
export function periodEnd(cycle: Cycle, from: CalendarDate): CalendarDate {
  const [year = 0, month = 0, day = 0] = from.split('-').map(Number);
  const ends = cycle.kind === 'day' ? cycle.day : 31;
  const own = Math.min(ends, daysInMonth(year, month));
  if (day <= own) return calendarDate(year, month, own);
  const [nextYear, next] = month === 12 ? [year + 1, 1] : [year, month + 1];
  return calendarDate(nextYear, next, Math.min(ends, daysInMonth(nextYear, next)));
}

/** So many statements are worked out at most. */
const MOST_PERIODS = 400;

/**
 * The periods of an account's statements, one after the other without a hole: those that somebody has said, and between
 * and after them those of the cycle.
 *
 * @param first the day on which the first one begins
 * @param said periods that are fixed, in the order of time, none over another; those before `first` are passed over
 * @param until the last day that has to be in a period
 * @example statementPeriods({ kind: 'month' }, '2026-01-15', [], '2026-02-10')
 * // [{ from: '2026-01-15', to: '2026-01-31' }, { from: '2026-02-01', to: '2026-02-28' }]
 */
export function statementPeriods(
  cycle: Cycle,
  first: CalendarDate,
  said: readonly Period[],
  until: CalendarDate,
): Period[] {
  const periods: Period[] = [];
  const waiting = said.filter(({ to }) => to >= first);
  const last = waiting.at(-1)?.to ?? '';
  let from = first;
  while ((from <= until || from <= last) && periods.length < MOST_PERIODS) {
    const next = waiting.find((period) => period.to >= from);
    const isNext = next !== undefined && next.from <= from;
    const end = periodEnd(cycle, from);
    const to = isNext ? next.to : next && next.from <= end ? addDays(next.from, -1) : end;
    periods.push({ from, to });
    from = addDays(to, 1);
  }
  return periods;
}
