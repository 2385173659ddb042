import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ExchangedLeg } from '../exchange/exchangedLegs.ts';
import { sumOf } from '../money/minor.ts';
import { clientOf, clientShares, firstBelowZero, lacksClient } from './clientMoney.ts';
import { type Coding, wholeLineCoding } from './coding.ts';

const books = {
  holdsClients: (accountId: string) => accountId === 'trust',
  isCustomer: (payeeId: string) => payeeId === 'alder' || payeeId === 'birch',
};
const leg = (
  accountId: string,
  amount: number,
  more: Partial<ExchangedLeg> = {},
): ExchangedLeg => ({
  accountId,
  amount,
  taxCodeId: null,
  role: accountId === 'trust' || accountId === 'office' ? 'bank' : 'base',
  ...more,
});
const shares = (legs: readonly ExchangedLeg[], payeeId: string | null = null, exchange?: object) =>
  clientShares(
    { legs, payeeId, ...(exchange ? { exchange } : {}) },
    legs[0] as ExchangedLeg,
    books,
  );

describe('whose money a part is', () => {
  it('is the client’s who is named, else the payee’s where that is a customer', () => {
    expect(clientOf({ clientId: 'birch' }, 'alder', books)).toBe('birch');
    expect(clientOf({}, 'alder', books)).toBe('alder');
    expect(clientOf({ clientId: null }, 'court', books)).toBeNull();
    expect(clientOf({}, null, books)).toBeNull();
  });

  it('is missed only where money of clients moves', () => {
    const coding = wholeLineCoding('fees', null, null);
    expect(lacksClient(coding, 'trust', books)).toBe(true);
    expect(lacksClient(coding, 'office', books)).toBe(false);
    expect(lacksClient(coding, null, books)).toBe(false);
    expect(lacksClient(wholeLineCoding('trust', null, null), 'office', books)).toBe(true);
    expect(lacksClient(wholeLineCoding('fees', 'alder', null), 'trust', books)).toBe(false);
    const [part] = coding.parts;
    const half: Coding = part
      ? { ...coding, parts: [{ ...part, clientId: 'alder' }, part] }
      : coding;
    expect(lacksClient(half, 'trust', books)).toBe(true);
  });
});

describe('the shares of a leg', () => {
  it('are as the other legs say, tax with its part', () => {
    const legs = [
      leg('trust', -10_000),
      leg('fees', 5_000, { clientId: 'alder' }),
      leg('tax', 1_000, { clientId: 'alder', role: 'tax' }),
      leg('held', 4_000, { clientId: 'birch' }),
    ];
    expect(shares(legs)).toEqual([
      { clientId: 'alder', amount: -6_000 },
      { clientId: 'birch', amount: -4_000 },
    ]);
  });

  it('are all of the client that the leg itself names: the other half of a transfer', () => {
    const trust = leg('trust', 700, { clientId: 'birch' });
    expect(shares([trust, leg('office', -700)])).toEqual([{ clientId: 'birch', amount: 700 }]);
  });

  it('are not known where one part names nobody', () => {
    const legs = [leg('trust', -100), leg('a', 60, { clientId: 'alder' }), leg('b', 40)];
    expect(shares(legs)).toBeNull();
    expect(shares(legs, 'birch')).toHaveLength(2);
  });

  it('are in the bank account’s own currency, and rounding goes to nobody', () => {
    const legs = [
      leg('trust', -9_235, { original: -10_000 }),
      leg('fees', 5_541, { original: 6_000, clientId: 'alder' }),
      leg('held', 3_693, { original: 4_000, clientId: 'birch' }),
      leg('difference', 1, { clientId: 'birch' }),
    ];
    expect(shares(legs, null, { currency: 'USD', rate: '0.92345' })).toEqual([
      { clientId: 'alder', amount: -6_000 },
      { clientId: 'birch', amount: -4_000 },
    ]);
  });

  it('add up to the leg, however it is parted', () => {
    const parts = fc.array(
      fc.record({ clientId: fc.constantFrom('alder', 'birch', 'cedar'), amount: fc.integer() }),
      { minLength: 1, maxLength: 9 },
    );
    fc.assert(
      fc.property(parts, (given) => {
        const others = given.map(({ clientId, amount }) => leg('held', amount, { clientId }));
        const own = leg('trust', -sumOf(given));
        expect(sumOf(shares([own, ...others]) ?? []) - own.amount).toBe(0);
      }),
    );
  });
});

describe('a client’s money', () => {
  it('may not be below zero at the end of a day, whatever the order within one', () => {
    const day = (date: string, amount: number) => ({ date, amount });
    expect(firstBelowZero([day('2026-03-02', -50), day('2026-03-02', 50)])).toBeNull();
    expect(firstBelowZero([day('2026-03-03', 50), day('2026-03-02', -50)])).toEqual({
      date: '2026-03-02',
      amount: -50,
    });
    expect(
      firstBelowZero([day('2026-03-01', 100), day('2026-03-05', -80), day('2026-03-04', -30)]),
    ).toEqual({ date: '2026-03-05', amount: -10 });
    expect(firstBelowZero([])).toBeNull();
  });
});
