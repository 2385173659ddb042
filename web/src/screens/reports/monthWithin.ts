import { lastDayOf } from '@zubrell/core/dates/calendarDate';
import type { Period } from './reportPeriod.ts';

/** The part of a period that a column shows: a month, or all of it. */
export function monthWithin(period: Period, months: readonly string[], column: number): Period {
  const month = months[column];
  if (month === undefined) return period;
  const [first, last] = [`${month}-01`, lastDayOf(month)];
  return {
    from: first < period.from ? period.from : first,
    to: last > period.to ? period.to : last,
  };
}
