import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type ProofSums, prove, sumProofs } from './prove.ts';

const sums: ProofSums = {
  date: '2026-03-31',
  stated: { date: '2026-03-31', amount: 1241820, since: 0 },
  calculated: 1241820,
  open: -191406,
  openCount: 198,
  keptOut: 0,
  keptOutCount: 0,
  outstanding: -64000,
  outstandingCount: 3,
  books: 1369226,
};

describe('the proof', () => {
  it('is the equation of bank and books', () => {
    expect(prove(sums)).toMatchObject({
      bank: 1241820,
      shouldSay: 1369226,
      unexplained: 0,
      isStated: true,
    });
  });

  it('says calculated where the bank states nothing, or nothing newer', () => {
    expect(prove({ ...sums, stated: null })).toMatchObject({ bank: 1241820, isStated: false });
    const older = { date: '2026-02-28', amount: 1000000, since: 241820 };
    expect(prove({ ...sums, stated: older })).toMatchObject({ bank: 1241820, isStated: false });
  });

  it('stays explained when a line goes from open to posted, and only then', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), (amount) => {
        const posted = { ...sums, open: sums.open - amount, books: sums.books + amount };
        expect(prove(posted).unexplained).toBe(0);
        expect(prove({ ...sums, books: sums.books + amount }).unexplained).toBe(0 - amount);
      }),
    );
  });

  it('adds up over bank accounts, and is stated only if all are', () => {
    const two = sumProofs([prove(sums), prove({ ...sums, stated: null })], sums.date);
    expect(two).toMatchObject({ bank: 2483640, openCount: 396, unexplained: 0, isStated: false });
  });
});
