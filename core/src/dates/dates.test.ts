import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addDays,
  addMonths,
  calendarDate,
  formatDate,
  lastDayOf,
  monthsBetween,
} from './calendarDate.ts';
import { dateOrderOf, parseDate } from './parseDate.ts';

const days = fc.integer({ min: 0, max: 40_000 }).map((count) => addDays('1990-01-01', count));

describe('dates', () => {
  it.each([
    ['2026-01-31', 1, '2026-02-28'],
    ['2024-01-31', 1, '2024-02-29'],
    ['2026-03-31', -1, '2026-02-28'],
    ['2026-01-15', -1, '2025-12-15'],
    ['2025-12-31', 14, '2027-02-28'],
    ['2026-02-28', 1, '2026-03-28'],
  ])('%s and %i months are %s', (date, months, later) => {
    expect(addMonths(date, months)).toBe(later);
  });

  it('read back in every order they are written in', () => {
    fc.assert(
      fc.property(days, (date) => {
        const [year = '', month = '', day = ''] = date.split('-');
        expect(parseDate(`${day}.${month}.${year}`, 'dayFirst')).toBe(date);
        expect(parseDate(`${month}/${day}/${year}`, 'monthFirst')).toBe(date);
        expect(parseDate(`${year}${month}${day}`, 'dayFirst')).toBe(date);
        expect(parseDate(date, 'monthFirst')).toBe(date);
        expect(parseDate(`${date}T23:59:59Z`, 'yearFirst')).toBe(date);
      }),
    );
  });

  it('that are none are refused by name', () => {
    expect(() => parseDate('31.02.2026', 'dayFirst')).toThrow('31 February doesn’t exist.');
    expect(() => parseDate('31.02.26', 'dayFirst')).toThrow('31 February doesn’t exist.');
    expect(() => parseDate('29 Feb 2025', 'dayFirst')).toThrow('29 February doesn’t exist.');
    expect(() => parseDate('12.13.2026', 'dayFirst')).toThrow('isn’t a date');
    expect(() => parseDate('soon', 'dayFirst')).toThrow('“soon” isn’t a date we can read.');
    expect(() => parseDate(' ', 'dayFirst')).toThrow('missing');
    expect(calendarDate(2024, 2, 29)).toBe('2024-02-29');
  });

  it('have the order that the whole column decides', () => {
    const sure = (order: string) => ({ order, openDate: null });
    expect(dateOrderOf(['03/04/2026', '28/04/2026'])).toEqual(sure('dayFirst'));
    expect(dateOrderOf(['03/04/2026', '03/28/2026'])).toEqual(sure('monthFirst'));
    expect(dateOrderOf(['2026-03-04'])).toEqual(sure('yearFirst'));
    expect(dateOrderOf(['20260304'])).toEqual(sure('yearFirst'));
    expect(dateOrderOf(['03/03/2026', '4 Mar 2026'])).toEqual(sure('dayFirst'));
  });

  it('say which of them can’t be told apart where none decides', () => {
    expect(dateOrderOf(['03/03/2026', '03/04/2026'])).toEqual({
      order: 'dayFirst',
      openDate: '03/04/2026',
    });
    expect(dateOrderOf(['01/02/2026', '01/09/2026', '02/03/2026', '02/11/2026'])).toEqual({
      order: 'monthFirst',
      openDate: '01/02/2026',
    });
  });

  it('further off than any bank’s are refused', () => {
    expect(calendarDate(1970, 1, 1)).toBe('1970-01-01');
    expect(calendarDate(2100, 12, 31)).toBe('2100-12-31');
    expect(() => calendarDate(1969, 12, 31)).toThrow('31 December 1969 is too far off');
    expect(() => calendarDate(2101, 1, 1)).toThrow('dates run from 1970 to 2100');
  });

  it('show the year only where it differs', () => {
    expect(formatDate('2026-03-03', 2026)).toBe('03 Mar');
    expect(formatDate('2025-03-03', 2026)).toBe('03 Mar 2025');
    expect(lastDayOf('2024-02')).toBe('2024-02-29');
    expect(monthsBetween('2025-11', '2026-02')).toEqual([
      '2025-11',
      '2025-12',
      '2026-01',
      '2026-02',
    ]);
  });
});
