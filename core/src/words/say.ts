import { type CalendarDate, formatLongDate, formatMonth } from '../dates/calendarDate.ts';
import { formatAmount } from '../money/formatAmount.ts';
import { type Formats, usualFormats } from '../text/formats.ts';
import { counted, keyOf, pieces } from './t.ts';

/** What stands in a message where people write it differently: a date, a month, an amount, a number of things. */
export type SaidValue =
  | string
  | number
  | { readonly date: CalendarDate }
  | { readonly month: string }
  | { readonly minor: number; readonly currency: string; readonly plus?: boolean }
  | { readonly count: number; readonly one: string; readonly other: string }
  | Said;

/**
 * A message as it is kept and sent: a key of the catalogue, and the values that stand in it.
 */
export interface Said {
  readonly key: string;
  readonly values: readonly SaidValue[];
}

/** @example say`Reopened ${linesSaid(2)}` // { key: 'Reopened {0}', values: [{ count: 2, … }] } */
export function say(texts: readonly string[], ...values: readonly SaidValue[]): Said {
  return { key: keyOf(texts), values };
}

/** A date in full. */
export const dateSaid = (date: CalendarDate): SaidValue => ({ date });
/** A month of a year. @param month `2026-03` */
export const monthSaid = (month: string): SaidValue => ({ month });
/** An amount without its currency, in minor units. @param plus whether what is above zero has a sign too */
export const amountSaid = (minor: number, currency: string, plus = false): SaidValue =>
  plus ? { minor, currency, plus } : { minor, currency };
/** So many of something. @example countSaid(2, 'rate', 'rates') // '2 rates' */
export const countSaid = (count: number, one: string, other: string): SaidValue => ({
  count,
  one,
  other,
});
/** So many lines. */
export const linesSaid = (count: number): SaidValue => countSaid(count, 'line', 'lines');

/**
 * A message in words.
 *
 * @param formats how whoever reads it writes dates and amounts
 * @example saidWords(say`Posted ${linesSaid(1)}`) // 'Posted 1 line'
 */
export function saidWords({ key, values }: Said, formats: Formats = usualFormats): string {
  return pieces(key)
    .map((piece) => (typeof piece === 'number' ? valueWords(values[piece] ?? '', formats) : piece))
    .join('');
}

function valueWords(value: SaidValue, formats: Formats): string {
  if (typeof value !== 'object') return String(value);
  if ('key' in value) return saidWords(value, formats);
  if ('date' in value) return formatLongDate(value.date, formats.dateOrder);
  if ('month' in value) return formatMonth(value.month);
  if ('minor' in value)
    return formatAmount(value.minor, value.currency, {
      marks: formats,
      plus: value.plus ?? false,
    });
  return counted(value.count, value.one, value.other);
}
