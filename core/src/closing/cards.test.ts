import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sumOf } from '../money/minor.ts';
import { duePaid, spendingByHolder, statedDues } from './cards.ts';

const due = (to: string, amount: number, bankAccountId = 'card') => ({ bankAccountId, to, amount });
const line = (date: string, amount: number, bankAccountId = 'everyday') => ({
  bankAccountId,
  date,
  amount,
});
const MARCH = due('2026-03-08', 48_210);

describe('the payment of a card’s statement', () => {
  it.each([
    ['the day after it ended', line('2026-03-09', -48_210), MARCH],
    ['45 days after', line('2026-04-22', -48_210), MARCH],
    ['46 days after', line('2026-04-23', -48_210), null],
    ['on its last day', line('2026-03-08', -48_210), null],
    ['a cent more', line('2026-03-15', -48_211), null],
    ['money in', line('2026-03-15', 48_210), null],
    ['a line of the card itself', line('2026-03-15', -48_210, 'card'), null],
  ])('%s', (_, paying, found) => {
    expect(duePaid(paying, [MARCH])).toEqual(found);
  });

  it('is of the newest of several statements of one card, and of none where two cards fit', () => {
    const older = due('2026-02-08', 48_210);
    expect(duePaid(line('2026-03-15', -48_210), [MARCH, older])).toEqual(MARCH);
    expect(duePaid(line('2026-03-15', -48_210), [older, MARCH])).toEqual(MARCH);
    const other = due('2026-03-01', 48_210, 'fuel card');
    expect(duePaid(line('2026-03-15', -48_210), [MARCH, other])).toBeNull();
  });
});

describe('what a card’s statements leave to be paid', () => {
  const cycle = { kind: 'day', day: 8 } as const;
  it('is what was owed on the last day, or on the last day before it that the bank states', () => {
    const stated = [
      { date: '2026-02-08', amount: -100 },
      { date: '2026-02-20', amount: -900 },
      { date: '2026-03-06', amount: -300 },
      { date: '2026-03-11', amount: -500 },
      { date: '2026-04-08', amount: 20 },
      { date: '2026-04-09', amount: -700 },
    ];
    expect(statedDues('card', cycle, stated)).toEqual([
      due('2026-02-08', 100),
      due('2026-03-08', 300),
    ]);
    expect(statedDues('card', { kind: 'any' }, stated)).toEqual([]);
  });
});

describe('spending by cardholder', () => {
  it('adds up what each spent and got back, the largest first, nobody’s last', () => {
    const lines = [
      { cardholder: null, amount: 100_000 },
      { cardholder: 'M Oakes', amount: -4_850 },
      { cardholder: 'I Varga', amount: -9_000 },
      { cardholder: 'M Oakes', amount: -150 },
      { cardholder: 'I Varga', amount: 1_000 },
    ];
    expect(spendingByHolder(lines)).toEqual([
      { cardholder: 'I Varga', count: 2, spent: 9_000, refunded: 1_000 },
      { cardholder: 'M Oakes', count: 2, spent: 5_000, refunded: 0 },
      { cardholder: null, count: 1, spent: 0, refunded: 100_000 },
    ]);
  });

  it('loses nothing', () => {
    const lines = fc.array(
      fc.record({
        cardholder: fc.constantFrom('a', 'b', null),
        amount: fc.integer({ min: -1e6, max: 1e6 }),
      }),
    );
    fc.assert(
      fc.property(lines, (given) => {
        const holders = spendingByHolder(given);
        const total = holders.reduce((sum, { spent, refunded }) => sum + refunded - spent, 0);
        expect(total).toBe(sumOf(given));
        expect(holders.reduce((sum, { count }) => sum + count, 0)).toBe(given.length);
      }),
    );
  });
});
