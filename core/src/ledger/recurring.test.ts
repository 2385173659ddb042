import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { daysBetween, monthOf, monthsBetween } from '../dates/calendarDate.ts';
import { dueDates, fallsOn, nextDate, recurringDate, rhythms } from './recurring.ts';

const from = (startDate: string, rhythm: (typeof rhythms)[number] = 'month') => ({
  rhythm,
  startDate,
  endDate: null,
});
const never = () => false;

describe('the dates of a recurring journal', () => {
  it.each([
    ['month', '2026-01-15', ['2026-01-15', '2026-02-15', '2026-03-15']],
    ['month', '2026-01-30', ['2026-01-30', '2026-02-28', '2026-03-30']],
    ['month', '2026-01-31', ['2026-01-31', '2026-02-28', '2026-03-31']],
    ['month', '2026-02-28', ['2026-02-28', '2026-03-31', '2026-04-30']],
    ['month', '2024-02-28', ['2024-02-28', '2024-03-28', '2024-04-28']],
    ['quarter', '2025-11-30', ['2025-11-30', '2026-02-28', '2026-05-31']],
    ['year', '2024-02-29', ['2024-02-29', '2025-02-28', '2026-02-28']],
  ] as const)('every %s from %s', (rhythm, start, dates) => {
    expect([0, 1, 2].map((n) => recurringDate(from(start, rhythm), n))).toEqual(dates);
  });

  it('fall into every month, quarter or year once, whatever the day', () => {
    const days = fc.date({
      min: new Date('1990-01-01'),
      max: new Date('2060-01-01'),
      noInvalidDate: true,
    });
    fc.assert(
      fc.property(days, fc.constantFrom(...rhythms), fc.nat(60), (day, rhythm, n) => {
        const recurrence = from(day.toISOString().slice(0, 10), rhythm);
        const [one, next] = [recurringDate(recurrence, n), recurringDate(recurrence, n + 1)];
        const months = { month: 1, quarter: 3, year: 12 }[rhythm];
        expect(monthsBetween(monthOf(one), monthOf(next))).toHaveLength(months + 1);
        expect(new Date(`${next}T00:00:00Z`).toISOString().slice(0, 10)).toBe(next);
        expect(daysBetween(one, next)).toBeGreaterThan(0);
        expect(fallsOn(recurrence, next)).toBe(true);
      }),
    );
  });

  it('are due up to the day, without those that were posted or skipped', () => {
    const monthly = from('2026-01-31');
    expect(dueDates(monthly, '2026-03-30', never)).toEqual(['2026-01-31', '2026-02-28']);
    expect(dueDates(monthly, '2026-03-31', (date) => date === '2026-01-31')).toEqual([
      '2026-02-28',
      '2026-03-31',
    ]);
    expect(dueDates(monthly, '2026-01-30', never)).toEqual([]);
  });

  it('end on the last date', () => {
    const ending = { ...from('2026-01-31'), endDate: '2026-03-31' };
    expect(dueDates(ending, '2026-12-31', never)).toHaveLength(3);
    expect(nextDate(ending, '2026-02-28', never)).toBe('2026-03-31');
    expect(nextDate(ending, '2026-03-31', never)).toBeNull();
    expect(nextDate(from('2100-12-31'), '2100-12-31', never)).toBeNull();
  });

  it('go on after those that were posted ahead', () => {
    const monthly = from('2026-01-31');
    expect(nextDate(monthly, '2026-04-08', (date) => date === '2026-04-30')).toBe('2026-05-31');
    expect(fallsOn(monthly, '2026-02-27')).toBe(false);
    expect(fallsOn(monthly, '2025-12-31')).toBe(false);
  });
});
