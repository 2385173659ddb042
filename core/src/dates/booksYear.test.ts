import { expect, it } from 'vitest';
import { yearFrom } from './booksYear.ts';

it.each([
  ['2026-03-14', 1, '2026-01-01'],
  ['2026-01-01', 1, '2026-01-01'],
  ['2026-03-31', 4, '2025-04-01'],
  ['2026-04-01', 4, '2026-04-01'],
  ['2026-12-31', 4, '2026-04-01'],
  ['2026-11-30', 12, '2025-12-01'],
])('the year of %s that begins in month %i is from %s', (date, begins, from) => {
  expect(yearFrom(date, begins)).toBe(from);
});
