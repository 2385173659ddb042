import { afterEach, describe, expect, it } from 'vitest';
import {
  applyLocale,
  beginsOnSunday,
  counted,
  countLines,
  editedAmount,
  formatAmount,
  formatCount,
  formatDate,
  readAmount,
  readDate,
} from './formats.ts';

afterEach(() => applyLocale('en-GB'));

describe('dates, amounts and counts', () => {
  it.each([0, 1, 12, 999])('are written as they are below a thousand (%i)', (count) => {
    expect(formatCount(count)).toBe(String(count));
  });

  it.each([
    { locale: 'en-GB', counts: ['1,302', '1,234,567'], typed: '-1234.50', date: '03 Mar' },
    { locale: 'de-DE', counts: ['1.302', '1.234.567'], typed: '-1234,50', date: '03 Mar' },
    { locale: 'en-US', counts: ['1,302', '1,234,567'], typed: '-1234.50', date: 'Mar 03' },
  ] as const)('are written as $locale has them', ({ locale, counts, typed, date }) => {
    applyLocale(locale);
    expect([formatCount(1_302), formatCount(1_234_567)]).toEqual(counts);
    expect(countLines(1_302)).toBe(`${counts[0]} lines`);
    expect(counted(1_302, 'entry', 'entries')).toBe(`${counts[0]} entries`);
    const mark = locale === 'de-DE' ? '.' : ',';
    expect(formatAmount(-123_450, 'EUR')).toBe(typed.replace('-1', `−1${mark}`));
    expect(editedAmount(-123_450, 'EUR')).toBe(typed);
    expect(formatDate('2026-03-03', 2026)).toBe(date);
    // What is written can be read.
    expect(readAmount(typed, 'EUR')).toBe(-123_450);
  });

  it('of one line are in the singular', () => {
    expect(countLines(1)).toBe('1 line');
  });

  it('are read in the order that the user writes them in', () => {
    expect(readDate('4/3', '2026-03-31')).toBe('2026-03-04');
    applyLocale('en-US');
    expect(readDate('4/3', '2026-03-31')).toBe('2026-04-03');
    expect(beginsOnSunday()).toBe(true);
  });
});
