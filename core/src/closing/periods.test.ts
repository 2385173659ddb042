import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../dates/calendarDate.ts';
import { type Cycle, periodEnd, statementPeriods } from './periods.ts';

const cycles = fc.oneof(
  fc.constant<Cycle>({ kind: 'month' }),
  fc.constant<Cycle>({ kind: 'any' }),
  fc.integer({ min: 1, max: 31 }).map((day): Cycle => ({ kind: 'day', day })),
);
const days = fc.integer({ min: 0, max: 1_500 }).map((days) => addDays('2024-01-01', days));

describe('the periods of statements', () => {
  it('end on the day of the cycle, or on the last day of a shorter month', () => {
    expect(periodEnd({ kind: 'day', day: 8 }, '2026-12-09')).toBe('2027-01-08');
    expect(periodEnd({ kind: 'day', day: 8 }, '2026-12-08')).toBe('2026-12-08');
    expect(periodEnd({ kind: 'day', day: 31 }, '2026-02-01')).toBe('2026-02-28');
    expect(periodEnd({ kind: 'day', day: 30 }, '2024-01-31')).toBe('2024-02-29');
  });

  it('follow each other without a hole, whatever the cycle', () => {
    fc.assert(
      fc.property(cycles, days, days, (cycle, first, until) => {
        const periods = statementPeriods(cycle, first, [], until);
        expect(periods[0]?.from ?? first).toBe(first);
        for (const [at, { from, to }] of periods.entries()) {
          expect(to >= from).toBe(true);
          const next = periods[at + 1];
          if (next) expect(next.from).toBe(addDays(to, 1));
        }
        if (first <= until) expect((periods.at(-1)?.to ?? '') >= until).toBe(true);
      }),
    );
  });

  it('keep what somebody said, and fill up around it', () => {
    const said = [{ from: '2026-02-11', to: '2026-02-20' }];
    expect(statementPeriods({ kind: 'month' }, '2026-01-15', said, '2026-03-05')).toEqual([
      { from: '2026-01-15', to: '2026-01-31' },
      { from: '2026-02-01', to: '2026-02-10' },
      { from: '2026-02-11', to: '2026-02-20' },
      { from: '2026-02-21', to: '2026-02-28' },
      { from: '2026-03-01', to: '2026-03-31' },
    ]);
  });
});
