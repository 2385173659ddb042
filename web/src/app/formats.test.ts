import { afterEach, describe, expect, it } from 'vitest';
import {
  applyLocale,
  beginsOnSunday,
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
    ['en-GB', '1,302', '1,234,567', '−1,234.50', '-1234.50', '03 Mar'],
    ['de-DE', '1.302', '1.234.567', '−1.234,50', '-1234,50', '03 Mar'],
    ['en-US', '1,302', '1,234,567', '−1,234.50', '-1234.50', 'Mar 03'],
  ] as const)('are written as %s has them', (locale, some, many, amount, edited, date) => {
    applyLocale(locale);
    expect([formatCount(1_302), formatCount(1_234_567)]).toEqual([some, many]);
    expect(countLines(1_302)).toBe(`${some} lines`);
    expect(formatAmount(-123_450, 'EUR')).toBe(amount);
    expect(editedAmount(-123_450, 'EUR')).toBe(edited);
    expect(formatDate('2026-03-03', 2026)).toBe(date);
    // What is written can be read.
    expect(readAmount(edited, 'EUR')).toBe(-123_450);
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
