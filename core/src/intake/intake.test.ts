import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { BankStatement } from '../formats/bankFile.ts';
import { type LineFacts, matchLines } from './matchLines.ts';
import { closingBalance, openingBalance, statementGap } from './statementBalances.ts';

function line(description: string, amount = -480, bankId: string | null = null): LineFacts {
  return { date: '2026-03-13', amount, description, reference: null, bankId };
}

describe('lines here already', () => {
  it('are counted, so that genuine repeats stay', () => {
    const coffee = line('COBBLE CAFE');
    expect(matchLines([coffee], [coffee, coffee])).toEqual([0, null]);
    expect(matchLines([coffee, coffee], [coffee, coffee])).toEqual([0, 1]);
    expect(matchLines([], [coffee, coffee])).toEqual([null, null]);
  });

  it('match by bank id first, by wording where ids differ or are missing', () => {
    const here = [line('COBBLE CAFE', -480, 'A'), line('COBBLE CAFE', -480, 'B')];
    expect(matchLines(here, [line('cobble  café', -480, 'B')])).toEqual([1]);
    expect(matchLines(here, [line('cobble cafe')])).toEqual([0]);
    expect(matchLines(here, [line('COBBLE CAFE', -490, 'A')])).toEqual([null]);
  });

  it('are all found when the same source comes again, whatever its order', () => {
    const lines = fc.array(
      fc.record({
        date: fc.constantFrom('2026-03-01', '2026-03-02'),
        amount: fc.integer({ min: -3, max: 3 }),
        description: fc.constantFrom('A', 'B'),
        reference: fc.constant(null),
        bankId: fc.option(fc.constantFrom('1', '2', '3')),
      }),
      { maxLength: 30 },
    );
    fc.assert(
      fc.property(lines, (source) => {
        const matches = matchLines(source, [...source].reverse());
        expect(new Set(matches)).toEqual(new Set(source.keys()));
      }),
    );
  });
});

describe('balances of a statement', () => {
  const statement: BankStatement = {
    account: null,
    bank: null,
    kind: null,
    currency: 'EUR',
    from: null,
    to: '2026-03-31',
    opening: null,
    closing: 5150,
    closingDate: null,
    lines: [
      {
        ...line('A', -4850),
        place: 1,
        valueDate: null,
        payee: null,
        type: null,
        chequeNumber: null,
        balance: null,
        isPending: false,
      },
    ],
  };

  it('open the day before the first line, with closing less lines where not stated', () => {
    expect(openingBalance(statement)).toEqual({ date: '2026-03-12', amount: 10000 });
    expect(openingBalance({ ...statement, opening: 1 })).toMatchObject({ amount: 1 });
    expect(openingBalance({ ...statement, closing: null })).toBeNull();
    expect(openingBalance({ ...statement, lines: [] })).toBeNull();
  });

  it('tell what a missing record leaves unexplained', () => {
    expect(closingBalance(statement)).toEqual({ date: '2026-03-31', amount: 5150 });
    expect(statementGap({ ...statement, opening: 10690 })).toBe(-690);
    expect(statementGap(statement)).toBeNull();
  });
});
