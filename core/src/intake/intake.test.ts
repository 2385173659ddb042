import { describe, expect, it } from 'vitest';
import { type BankStatement, bankLine } from '../formats/bankFile.ts';
import { isSameAccountNumber } from './isSameAccountNumber.ts';
import type { LineFacts } from './matchSources.ts';
import { closingBalance, openingBalance, statementGap } from './statementBalances.ts';

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
    lines: [bankLine({ ...line('A', -4850), place: 1 })],
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
