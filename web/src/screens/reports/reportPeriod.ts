import {
  addDays,
  addMonths,
  type CalendarDate,
  firstYear,
  lastDayOf,
  monthOf,
  monthsBetween,
} from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';

/** A period: first and last day. */
export interface Period {
  readonly from: CalendarDate;
  readonly to: CalendarDate;
}

/** The first day that entries can have: what stands on a day is all since then. */
export const BEGINNING: CalendarDate = `${firstYear}-01-01`;

/** What a report can be compared with. */
export const comparisons = {
  none: t`nothing`,
  before: t`the period before`,
  lastYear: t`last year`,
} as const;
export type Comparison = keyof typeof comparisons;

/** The six months that end with a day's. @example usualPeriod('2026-03-14') // 2025-10-01 to 2026-03-31 */
export function usualPeriod(day: CalendarDate): Period {
  const month = monthOf(day);
  const from = addMonths(`${month}-01`, -5);
  return { from, to: lastDayOf(month) };
}

/** The period that another is compared with; null for none. */
export function comparedPeriod(period: Period, comparison: Comparison): Period | null {
  if (comparison === 'none') return null;
  if (comparison === 'lastYear')
    return { from: addMonths(period.from, -12), to: ended(period, -12) };
  const months = monthsBetween(monthOf(period.from), monthOf(period.to)).length;
  const isWhole = period.from.endsWith('-01') && period.to === lastDayOf(monthOf(period.to));
  if (isWhole) return { from: addMonths(period.from, -months), to: addDays(period.from, -1) };
  const days = (Date.parse(period.to) - Date.parse(period.from)) / 86_400_000;
  return { from: addDays(period.from, -days - 1), to: addDays(period.from, -1) };
}

/** The last day of a period some months away: the end of a month stays one. */
function ended({ to }: Period, months: number): CalendarDate {
  const day = addMonths(to, months);
  return to === lastDayOf(monthOf(to)) ? lastDayOf(monthOf(day)) : day;
}

/** Of a report with what was before, what came and went, and what is after: the days that a column is of. */
export function daysOfColumn(column: number, { from, to }: Period): Period {
  if (column === 0) return { from: BEGINNING, to: addDays(from, -1) };
  return column < 3 ? { from, to } : { from: BEGINNING, to };
}
