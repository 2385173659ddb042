import type { DateOrder } from '../dates/calendarDate.ts';
import type { Locale } from '../people/locales.ts';

/** How dates and amounts are written somewhere. */
export interface Formats {
  readonly dateOrder: DateOrder;
  readonly decimal: '.' | ',';
  /** What stands between groups of three digits. */
  readonly group: string;
}

/** Day first, a decimal point: how messages are written. */
export const usualFormats: Formats = { dateOrder: 'dayFirst', decimal: '.', group: ',' };

const ORDERS = { d: 'dayFirst', m: 'monthFirst', y: 'yearFirst' } as const;

/**
 * How dates and amounts are written where a locale is at home, as `Intl` knows it.
 *
 * @example formatsOf('de-DE') // { dateOrder: 'dayFirst', decimal: ',', group: '.' }
 */
export function formatsOf(locale: Locale): Formats {
  const dates = new Intl.DateTimeFormat(locale).formatToParts(new Date(2026, 2, 12));
  const first = dates.find(({ type }) => type === 'day' || type === 'month' || type === 'year');
  const numbers = new Intl.NumberFormat(locale).formatToParts(12_345_678.5);
  const mark = (wanted: string) => numbers.find(({ type }) => type === wanted)?.value;
  return {
    dateOrder: ORDERS[(first?.type[0] ?? 'd') as keyof typeof ORDERS],
    decimal: mark('decimal') === ',' ? ',' : '.',
    group: mark('group') ?? '',
  };
}
