import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatAmount } from '../money/formatAmount.ts';
import { parseAmount } from '../money/parseAmount.ts';
import { locales } from '../people/locales.ts';
import { formatsOf } from '../text/formats.ts';
import { addDays, formatDate, formatLongDate } from './calendarDate.ts';
import { readTypedDate } from './typedDate.ts';

const today = '2026-11-29';
const days = fc.integer({ min: 0, max: 40_000 }).map((count) => addDays('1990-01-01', count));
const orders = fc.constantFrom('dayFirst' as const, 'monthFirst' as const, 'yearFirst' as const);

describe('a typed date', () => {
  it.each([
    ['3/4', 'dayFirst', '2026-04-03'],
    ['3/4', 'monthFirst', '2026-03-04'],
    ['3-4', 'yearFirst', '2026-03-04'],
    ['3.4.25', 'dayFirst', '2025-04-03'],
    ['25-03-04', 'yearFirst', '2025-03-04'],
    ['2025-03-04', 'dayFirst', '2025-03-04'],
    ['0304', 'dayFirst', '2026-04-03'],
    ['030425', 'dayFirst', '2025-04-03'],
    ['03042025', 'monthFirst', '2025-03-04'],
    ['3 apr', 'monthFirst', '2026-04-03'],
    ['3Apr25', 'dayFirst', '2025-04-03'],
    ['Sept 30, 2025', 'dayFirst', '2025-09-30'],
    ['7', 'dayFirst', '2026-11-07'],
    [' Today ', 'dayFirst', today],
  ] as const)('%s, %s, is %s', (text, order, date) => {
    expect(readTypedDate(text, order, today)).toBe(date);
  });

  it.each([
    ['31/2', '31 February doesn’t exist.'],
    ['31', '31 November doesn’t exist.'],
    ['soon', '“soon” isn’t a date we can read.'],
    ['3 ma', '“3 ma” isn’t a date we can read.'],
    ['1/2/3/4', '“1/2/3/4” isn’t a date we can read.'],
    ['april', '“april” isn’t a date we can read.'],
    ['3.4.1066', '3 April 1066 is too far off: dates run from 1970 to 2100.'],
    ['', 'The date is missing.'],
  ])('%s is refused', (text, message) => {
    expect(() => readTypedDate(text, 'dayFirst', today)).toThrow(message);
  });

  it('is read back as it is shown, in every order', () => {
    fc.assert(
      fc.property(days, orders, (date, order) => {
        expect(readTypedDate(formatDate(date, 0, order), order, today)).toBe(date);
        expect(readTypedDate(formatLongDate(date, order), order, today)).toBe(date);
        expect(readTypedDate(formatDate(date, 2026, order), order, date)).toBe(date);
      }),
    );
  });
});

describe('formats', () => {
  it.each([
    ['en-GB', 'dayFirst', '.'],
    ['en-US', 'monthFirst', '.'],
    ['de-DE', 'dayFirst', ','],
    ['de-CH', 'dayFirst', '.'],
    ['sv-SE', 'yearFirst', ','],
  ] as const)('of %s', (locale, dateOrder, decimal) => {
    expect(formatsOf(locale)).toMatchObject({ dateOrder, decimal });
  });

  it('keep thousands apart by something that is no decimal mark', () => {
    for (const locale of locales) {
      const { decimal, group } = formatsOf(locale);
      const shown = formatAmount(-123_456_750, 'EUR', { marks: { decimal, group } });
      expect(shown).toBe(`−1${group}234${group}567${decimal}50`);
      expect(parseAmount(shown, decimal, 'EUR')).toBe(-123_456_750);
    }
  });
});
