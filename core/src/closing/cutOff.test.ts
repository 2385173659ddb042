import { expect, it } from 'vitest';
import { digitsOfYearBefore, namesYearBefore } from './cutOff.ts';

it.each([
  ['INVOICE 2093 OF 28.12.2025', true],
  ['RE 28.12.25 GORSEFIELD GAS', true],
  ['ENERGY 12/2025', true],
  ['RENT DEC 2025', true],
  ['RENT December 25', true],
  ['SERVICE 2025-12-31', true],
  ['INVOICE 2025', false],
  ['CARD 2025 GARRAN', false],
  ['PAYOUT 04.01.2026', false],
  ['INVOICE 28.12.2024', false],
  ['REF 112820251', false],
  ['DECK 2025', false],
])('“%s” in January 2026 names the year before: %s', (text, names) => {
  expect(namesYearBefore(text, '2026-01-14', 1)).toBe(names);
  const digits = digitsOfYearBefore('2026-01-14', 1);
  if (names) expect(digits.some((each) => text.includes(each))).toBe(true);
});

it('says nothing of payments later in the year', () => {
  expect(namesYearBefore('INVOICE OF 28.12.2025', '2026-04-01', 1)).toBe(false);
});

it('takes the years of the books, wherever they begin', () => {
  expect(digitsOfYearBefore('2026-01-14', 1)).toEqual(['25']);
  expect(digitsOfYearBefore('2026-04-20', 4)).toEqual(['25', '26']);
  expect(digitsOfYearBefore('2026-01-14', 4)).toEqual(['24', '25']);
  expect(namesYearBefore('INVOICE OF 28.03.2026', '2026-04-20', 4)).toBe(true);
  expect(namesYearBefore('INVOICE OF 28.12.2025', '2026-04-20', 4)).toBe(true);
  expect(namesYearBefore('INVOICE OF 20.04.2026', '2026-04-20', 4)).toBe(false);
  expect(namesYearBefore('INVOICE OF 28.03.2025', '2026-04-20', 4)).toBe(false);
  expect(namesYearBefore('INVOICE OF 28.12.2025', '2026-01-14', 4)).toBe(false);
  // Read month first it is of this year.
  expect(namesYearBefore('INVOICE OF 04.03.2026', '2026-04-20', 4)).toBe(false);
});
