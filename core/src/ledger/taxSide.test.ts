import { describe, expect, it } from 'vitest';
import { handDirection } from './entries.ts';
import { accountTypes } from './kinds.ts';
import { accountRoles } from './starterBooks.ts';
import { taxSide } from './taxSide.ts';

describe('the side of the tax that an account takes', () => {
  it('is input for what is bought, output for what is sold, none for what is owed or owned', () => {
    const sides = accountTypes.map((type) => [type, taxSide({ type, role: null, isBank: false })]);
    expect(Object.fromEntries(sides)).toEqual({
      asset: 'input',
      liability: null,
      equity: null,
      income: 'output',
      expense: 'input',
    });
  });

  it('is none where the account stands for a bank account, or money only goes through it', () => {
    expect(taxSide({ type: 'expense', role: null, isBank: true })).toBeNull();
    const untaxed = accountRoles.filter(
      (role) => taxSide({ type: 'expense', role, isBank: false }) === null,
    );
    expect(untaxed.sort()).toEqual(
      [
        'deposits',
        'drawings',
        'inputTax',
        'loans',
        'openingEquity',
        'outputTax',
        'payables',
        'receivables',
        'suspense',
        'taxOwed',
        'transfers',
        'wagesOwed',
      ].sort(),
    );
  });
});

it('money that is received or deposited comes in, what is paid goes out', () => {
  const kinds = ['receipt', 'deposit', 'payment', 'cheque'] as const;
  expect(kinds.map(handDirection)).toEqual([1, 1, -1, -1]);
});
