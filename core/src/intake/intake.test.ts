import { describe, expect, it } from 'vitest';
import { type BankStatement, bankLine } from '../formats/bankFile.ts';
import { firstBreak, statedDifferences } from './balanceChain.ts';
import { isSameAccountNumber } from './isSameAccountNumber.ts';
import type { LineFacts } from './matchSources.ts';
import { closingBalance, openingBalance, statementGap, summaryOf } from './statementBalances.ts';

function line(description: string, amount = -480, bankId: string | null = null): LineFacts {
  return { date: '2026-03-13', amount, description, reference: null, bankId };
}

describe('account numbers', () => {
  it('are compared without spaces, marks and case; one not stated fits any', () => {
    expect(isSameAccountNumber('30 2210 4471', '302210-4471')).toBe(true);
    expect(isSameAccountNumber('xx12', 'XX 12')).toBe(true);
    expect(isSameAccountNumber('4471', '4480')).toBe(false);
    expect(isSameAccountNumber(null, '4480')).toBe(true);
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
    dayBalances: [],
    lines: [bankLine({ ...line('A', -4850), place: 1 })],
  };

  const lines = summaryOf(statement.lines);

  it('open the day before the first line, with closing less lines where not stated', () => {
    expect(openingBalance(statement, lines)).toEqual({ date: '2026-03-12', amount: 10000 });
    expect(openingBalance({ ...statement, opening: 1 }, lines)).toMatchObject({ amount: 1 });
    expect(openingBalance({ ...statement, closing: null }, lines)).toBeNull();
    expect(openingBalance(statement, summaryOf([]))).toBeNull();
  });

  it('tell what a missing record leaves unexplained', () => {
    expect(closingBalance(statement)).toEqual({ date: '2026-03-31', amount: 5150 });
    expect(statementGap({ ...statement, opening: 10690 }, lines)).toBe(-690);
    expect(statementGap(statement, lines)).toBeNull();
  });
});

describe('a chain of balances', () => {
  const moved = [
    { date: '2026-03-03', amount: -480 },
    { date: '2026-03-03', amount: -480 },
    { date: '2026-03-06', amount: 6400 },
  ];
  const opening = { date: '2026-03-02', amount: 10000 };

  it('holds where every balance is the one before plus the lines since', () => {
    const stated = [
      { date: '2026-03-06', amount: 15440 },
      { date: '2026-03-03', amount: 9040 },
    ];
    expect(firstBreak(statedDifferences(opening, moved, stated))).toBeNull();
    expect(firstBreak(statedDifferences(null, moved, stated))).toBeNull();
    expect(statedDifferences(opening, moved, [])).toEqual([]);
  });

  it('breaks on the first day that does not add up, by the amount', () => {
    const stated = [
      { date: '2026-03-03', amount: 9520 },
      { date: '2026-03-06', amount: 15920 },
      { date: '2026-03-09', amount: 1 },
    ];
    expect(firstBreak(statedDifferences(opening, moved, stated))).toEqual({
      date: '2026-03-03',
      stated: 9520,
      difference: 480,
      since: null,
    });
    expect(firstBreak(statedDifferences(null, moved, stated))).toMatchObject({
      date: '2026-03-09',
      since: '2026-03-06',
    });
  });

  it('passes over what was stated before the opening balance', () => {
    expect(statedDifferences(opening, moved, [{ date: '2026-01-31', amount: 7 }])).toEqual([]);
  });
});
