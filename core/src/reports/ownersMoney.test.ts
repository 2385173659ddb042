import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sumMinor } from '../money/minor.ts';
import { closingOf } from './accountTotals.ts';
import { type OwnersAccounts, ownersMoney } from './ownersMoney.ts';

const mo: OwnersAccounts = { name: 'Mo', drawings: 'd1', capital: 'c1' };
const ines: OwnersAccounts = { name: 'Ines', drawings: 'd2', capital: 'c2' };

describe('what owners put in and took out', () => {
  it('stands by owner, with what is left in the business', () => {
    const { sections, total } = ownersMoney(
      [mo, ines],
      [
        { accountId: 'c1', opening: -100_000, months: [-50_000, 0] },
        { accountId: 'd1', opening: 0, months: [8_000, 4_000] },
        { accountId: 'd2', opening: 1_000, months: [0, 0] },
      ],
      (id) => id,
    );
    expect(sections.map(({ heading, rows }) => [heading, rows.map((row) => row.amounts)])).toEqual([
      [
        'Mo',
        [
          [100_000, 50_000, 0, 150_000],
          [0, 0, -12_000, -12_000],
          [100_000, 50_000, -12_000, 138_000],
        ],
      ],
      ['Ines', [[-1_000, 0, 0, -1_000]]],
    ]);
    expect(total.amounts).toEqual([99_000, 50_000, -12_000, 137_000]);
  });

  it('counts an account once where one is used for both', () => {
    const both = { name: 'Mo', drawings: 'c1', capital: 'c1' };
    const { total } = ownersMoney(
      [both],
      [{ accountId: 'c1', opening: 0, months: [-700] }],
      (id) => id,
    );
    expect(total.amounts).toEqual([0, 700, 0, 700]);
  });

  it('adds up to what the accounts come to, whatever moved', () => {
    const amount = fc.integer({ min: -1_000_000, max: 1_000_000 });
    const totals = fc.tuple(
      ...['c1', 'd1', 'c2', 'd2'].map((accountId) =>
        fc.record({ accountId: fc.constant(accountId), opening: amount, months: fc.array(amount) }),
      ),
    );
    fc.assert(
      fc.property(totals, (given) => {
        const { total } = ownersMoney([mo, ines], given, (id) => id);
        const [before = 0, into = 0, out = 0, after = 0] = total.amounts;
        expect(before + into + out).toBe(after);
        expect(after + sumMinor(given.map(closingOf))).toBe(0);
      }),
    );
  });
});
