import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sumOf } from '../money/minor.ts';
import { handSettlement, type SettledByHand } from './handSettlement.ts';

const accounts = { receivables: 'owed', payables: 'owing' };
const bill = (open: number, amount = open, change: Partial<SettledByHand> = {}): SettledByHand => ({
  documentId: 'bill',
  side: 'payables',
  payeeId: 'clay',
  open,
  amount,
  ...change,
});
const settle = (
  money: number,
  settled: readonly SettledByHand[],
  leavesCredit = false,
  payeeId: string | null = 'clay',
) => handSettlement(money, settled, { payeeId, leavesCredit }, accounts);
const legs = (...args: Parameters<typeof settle>) =>
  settle(...args).legs.map(({ accountId, amount }) => [accountId, amount]);

describe('what an entry made by hand settles', () => {
  it('is taken off what is owed, whole or in part, on either side', () => {
    expect(legs(-4_850, [bill(-4_850)])).toEqual([['owing', 4_850]]);
    expect(legs(-2_000, [bill(-4_850, -2_000)])).toEqual([['owing', 2_000]]);
    const note = bill(1_000, 1_000, { documentId: 'note' });
    expect(legs(-3_850, [bill(-4_850), note])).toEqual([['owing', 3_850]]);
    const invoice = bill(600, 600, { side: 'receivables' });
    expect(legs(-4_250, [bill(-4_850), invoice])).toEqual([
      ['owing', 4_850],
      ['owed', -600],
    ]);
  });

  it('leaves what is more to be coded, or as credit with the payee', () => {
    expect(settle(-6_000, [bill(-4_850)])).toMatchObject({ rest: -1_150, credit: null });
    expect(settle(-6_000, [bill(-4_850)], true)).toMatchObject({
      rest: 0,
      credit: { side: 'payables', payeeId: 'clay', amount: 1_150 },
    });
    expect(legs(-6_000, [bill(-4_850)], true)).toEqual([
      ['owing', 4_850],
      ['owing', 1_150],
    ]);
    expect(settle(5_000, [], true).credit).toEqual({
      side: 'receivables',
      payeeId: 'clay',
      amount: -5_000,
    });
  });

  it.each([
    ['more than is open', () => settle(-6_000, [bill(-4_850, -6_000)]), 'more of a document'],
    ['the other way', () => settle(4_850, [bill(-4_850)]), 'goes the other way'],
    ['nothing of it', () => settle(-100, [bill(-4_850, 0)]), 'more of a document'],
    ['more than the money', () => settle(-1_000, [bill(-4_850)]), 'total more'],
    ['another payee’s', () => settle(-4_850, [bill(-4_850)], false, 'stagwell'), 'one payee'],
    ['nobody’s', () => settle(-5_000, [], true, null), 'nothing to keep'],
    ['no rest', () => settle(-4_850, [bill(-4_850)], true), 'nothing to keep'],
  ])('is not %s', (_what, wrong, words) => expect(wrong).toThrow(words));

  it('always comes to the money, less what is coded', () => {
    const amount = fc.integer({ min: 1, max: 1e7 });
    fc.assert(
      fc.property(
        fc.array(amount, { maxLength: 5 }),
        fc.nat(1e7),
        fc.boolean(),
        (open, more, leaves) => {
          const settled = open.map((each) => bill(-each));
          const money = sumOf(settled) - more;
          const hasRest = leaves && more > 0;
          const { legs: made, rest, credit } = settle(money, settled, hasRest);
          expect(money + sumOf(made) - rest).toBe(0);
          expect(rest).toBe(hasRest ? 0 : 0 - more);
          expect(credit?.amount ?? 0).toBe(hasRest ? more : 0);
        },
      ),
    );
  });
});
