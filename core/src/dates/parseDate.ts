import { fail } from '../errors.ts';
import { type CalendarDate, calendarDate, type DateOrder, monthNames } from './calendarDate.ts';

const NAMES = monthNames.map((name) => name.slice(0, 3).toLowerCase());
const THREE = /^(\d{1,4})[./\-\s](\d{1,2}|[a-z]{3})[a-z]*[./\-\s]+(\d{1,4})(?:[T\s].*)?$/i;
const EIGHT = /^(\d{4})(\d{2})(\d{2})(?:\D.*|\d{6}.*)?$/;

/**
 * Reads a date in the order its column has. Two-digit years belong to 2000 to 2099.
 *
 * @throws {ZubrellError} DATE_MISSING, DATE_UNREADABLE, DATE_UNREAL
 * @example parseDate('03.04.2026', 'dayFirst') // '2026-04-03'
 * @example parseDate('2026-04-03', 'dayFirst') // '2026-04-03', as the year can only be the first
 */
export function parseDate(text: string, order: DateOrder): CalendarDate {
  const trimmed = text.trim();
  if (trimmed === '') fail('DATE_MISSING');
  const eight = EIGHT.exec(trimmed);
  if (eight) return calendarDate(Number(eight[1]), Number(eight[2]), Number(eight[3]));
  const three = THREE.exec(trimmed);
  if (!three) fail('DATE_UNREADABLE', { text: trimmed });
  const [, first = '', second = '', third = ''] = three;
  const named = NAMES.indexOf(second.toLowerCase()) + 1;
  if (first.length > 2) return calendarDate(Number(first), named || Number(second), Number(third));
  const year = third.length === 2 ? 2000 + Number(third) : Number(third);
  if (named > 0) return calendarDate(year, named, Number(first));
  if (order === 'monthFirst') return calendarDate(year, Number(first), Number(second));
  return calendarDate(year, Number(second), Number(first));
}

/** The order of a column of dates, as far as the dates tell it. */
export interface FoundOrder {
  readonly order: DateOrder;
  /** A date whose day and month can't be told apart, where none of them tells; else null. */
  readonly openDate: string | null;
}

/**
 * The order of a whole column of dates: what one date leaves open, another decides. Where none does, the
 * order in which the dates run more steadily is likely, then day first; but it stays open.
 *
 * @example dateOrderOf(['03/04/2026', '03/28/2026']).order // 'monthFirst'
 * @example dateOrderOf(['03/04/2026']) // { order: 'dayFirst', openDate: '03/04/2026' }
 */
export function dateOrderOf(texts: readonly string[]): FoundOrder {
  let dayFirst = 0;
  let monthFirst = 0;
  let yearFirst = 0;
  let open: string | null = null;
  // A column repeats the same few dates many times.
  const known = new Map<string, 'day' | 'month' | 'year' | 'open' | 'none'>();
  for (const text of texts) {
    const before = known.get(text);
    const said = before ?? toldBy(text.trim());
    if (before === undefined) known.set(text, said);
    if (said === 'day') dayFirst += 1;
    else if (said === 'month') monthFirst += 1;
    else if (said === 'year') yearFirst += 1;
    else if (said === 'open') open ??= text.trim();
  }
  if (yearFirst > dayFirst + monthFirst) return { order: 'yearFirst', openDate: null };
  if (dayFirst !== monthFirst) {
    return { order: monthFirst > dayFirst ? 'monthFirst' : 'dayFirst', openDate: null };
  }
  const isMonthSteadier = turnsIn(texts, 'monthFirst') < turnsIn(texts, 'dayFirst');
  return { order: isMonthSteadier ? 'monthFirst' : 'dayFirst', openDate: open };
}

/** What of a date is first, by the date alone; `none` where it is the same whichever is, or no date. */
function toldBy(text: string): 'day' | 'month' | 'year' | 'open' | 'none' {
  const three = THREE.exec(text);
  if (!three) return EIGHT.test(text) ? 'year' : 'none';
  const [first, second] = [three[1] ?? '', three[2] ?? ''];
  if (first.length > 2) return 'year';
  if (Number(first) > 12) return 'day';
  if (Number(second) > 12) return 'month';
  return Number(first) !== Number(second) && /\d/.test(second) ? 'open' : 'none';
}

/** How often dates read in an order run the other way than most do. */
function turnsIn(texts: readonly string[], order: DateOrder): number {
  let up = 0;
  let down = 0;
  let before = '';
  for (const text of texts) {
    const three = THREE.exec(text.trim());
    if (!three) continue;
    const [, first = '', second = '', year = ''] = three;
    const [day, month] = order === 'dayFirst' ? [first, second] : [second, first];
    const date = `${year}${month.padStart(2, '0')}${day.padStart(2, '0')}`;
    if (before !== '' && date > before) up += 1;
    if (before !== '' && date < before) down += 1;
    before = date;
  }
  return Math.min(up, down);
}
