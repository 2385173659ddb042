import { expect, it } from 'vitest';
import { numberSeries } from './numberSeries.ts';

it.each([
  [[], '1', []],
  [['7'], '8', []],
  [['2026-001', '2026-003'], '2026-004', ['2026-002']],
  // A series of another year is not counted on; the newest decides.
  [['2025-118', '2026-001', '2026-002'], '2026-003', []],
  [['R-09', 'R-10'], 'R-11', []],
  [['R-9', 'R-99'], 'R-100', Array.from({ length: 50 }, (_, at) => `R-${at + 10}`)],
  [['first invoice'], '1', []],
])('numbers %j are followed by %s and miss %j', (given, next, missing) => {
  expect(numberSeries(given, '1')).toEqual({ next, missing });
});
