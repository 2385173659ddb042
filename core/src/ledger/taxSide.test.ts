import { describe, expect, it } from 'vitest';
import { ZubrellError } from '../errors.ts';
import { toDecimal } from '../money/formatAmount.ts';
import { accountRoles } from './accountRoles.ts';
import { buildLegs, type TaxInForce } from './buildLegs.ts';
import { wholeLineCoding } from './coding.ts';
import { handDirection } from './entries.ts';
import { type AccountTax, type AccountType, accountTypes } from './kinds.ts';
import { fitsTax, type TaxedAccount, takesTax, taxSide } from './taxSide.ts';

const account = (type: AccountType, tax: AccountTax = 'byType'): TaxedAccount => ({
  type,
  role: null,
  isBank: false,
  tax,
});

const code = (id: string, change: Partial<TaxInForce> = {}): TaxInForce => ({
  id,
  name: id,
  kind: 'standard',
  use: 'both',
  rate: 2_000,
  inputAccountId: 'input',
  outputAccountId: 'output',
  recoverable: 10_000,
  ...change,
});
const codes = [
  code('20%'),
  code('20%buy', { use: 'purchases' }),
  code('20%sell', { use: 'sales' }),
  code('half', { recoverable: 5_000 }),
  code('0%', { kind: 'zero', rate: 0 }),
  code('exempt', { kind: 'exempt', rate: 0 }),
  code('outside', { kind: 'outside', rate: 0 }),
  code('reverse', { kind: 'reverseCharge' }),
];
const accounts: Readonly<Record<string, TaxedAccount>> = {
  expense: account('expense'),
  wages: account('expense', 'never'),
  asset: account('asset'),
  income: account('income'),
  liability: account('liability'),
  equity: account('equity'),
  // Deposits and prepayments that the books mark as taxed.
  paidAhead: { ...account('asset', 'byCode'), role: 'deposits' },
  gotAhead: account('liability', 'byCode'),
};

/** What posting 120.00 makes of the other side of the entry, or the error. */
function posted(accountId: string, direction: string, codeId: string): string {
  const line = direction === 'out' ? -12_000 : 12_000;
  try {
    const legs = buildLegs(line, 'bank', wholeLineCoding(accountId, null, codeId), {
      taxSide: (id, use) => taxSide(accounts[id] ?? account('asset'), use),
      accountName: (id) => id,
      tax: (id) => codes.find((each) => each.id === id) ?? code(id),
      isBank: () => false,
    });
    const counted = legs.slice(1).map((leg) => {
      const taxable = leg.taxable ?? null;
      const of = leg.taxSide ? `/${leg.taxSide}` : '';
      const net =
        taxable === null || taxable === leg.amount ? '' : ` of ${toDecimal(taxable, 'EUR')}`;
      return `${leg.accountId}${of} ${toDecimal(leg.amount, 'EUR')}${net}`;
    });
    return counted.join(', ');
  } catch (error) {
    if (error instanceof ZubrellError) return error.code;
    throw error;
  }
}

/*
 * Every type of account, money out and in, with every kind of code. A refund is money the other way on the same account:
 * from a supplier it lowers input tax, to a customer it lowers output tax. After the slash stands the side on which it
 * counts in the tax return. Debit is positive.
 */
const CASES = `
expense   | out | 20%     | expense/input 100.00, input/input 20.00
expense   | in  | 20%     | expense/input -100.00, input/input -20.00
expense   | out | half    | expense/input 110.00 of 100.00, input/input 10.00
expense   | out | 0%      | expense/input 120.00
expense   | in  | exempt  | expense/input -120.00
expense   | out | outside | expense 120.00
expense   | out | reverse | expense/input 120.00, input/input 24.00, output/output -24.00
expense   | in  | reverse | expense/input -120.00, input/input -24.00, output/output 24.00
expense   | out | 20%buy  | expense/input 100.00, input/input 20.00
expense   | out | 20%sell | TAX_OTHER_SIDE
wages     | out | 20%     | TAX_NOT_HERE
wages     | out | outside | wages 120.00
asset     | out | 20%     | asset/input 100.00, input/input 20.00
asset     | in  | 20%     | asset/input -100.00, input/input -20.00
asset     | out | 0%      | asset/input 120.00
asset     | out | reverse | asset/input 120.00, input/input 24.00, output/output -24.00
income    | in  | 20%     | income/output -100.00, output/output -20.00
income    | out | 20%     | income/output 100.00, output/output 20.00
income    | in  | 0%      | income/output -120.00
income    | out | exempt  | income/output 120.00
income    | in  | outside | income -120.00
income    | in  | reverse | income/output -120.00
income    | in  | 20%sell | income/output -100.00, output/output -20.00
income    | in  | 20%buy  | TAX_OTHER_SIDE
liability | out | 20%     | TAX_NOT_HERE
liability | in  | 20%     | TAX_NOT_HERE
liability | in  | outside | liability -120.00
equity    | out | 20%     | TAX_NOT_HERE
equity    | in  | exempt  | TAX_NOT_HERE
equity    | out | outside | equity 120.00
paidAhead | out | 20%     | paidAhead/input 100.00, input/input 20.00
paidAhead | in  | 20%buy  | paidAhead/input -100.00, input/input -20.00
paidAhead | in  | 20%sell | paidAhead/output -100.00, output/output -20.00
gotAhead  | in  | 20%     | gotAhead/output -100.00, output/output -20.00
gotAhead  | out | 20%sell | gotAhead/output 100.00, output/output 20.00
gotAhead  | out | 20%buy  | gotAhead/input 100.00, input/input 20.00`;

describe('which tax a posting touches', () => {
  const rows = CASES.trim()
    .split('\n')
    .map((row) => row.split('|').map((cell) => cell.trim()));
  it.each(rows)('%s, money %s, %s: %s', (accountId, direction, codeId, gives) => {
    expect(posted(accountId ?? '', direction ?? '', codeId ?? '')).toBe(gives);
  });
});

describe('the side of the tax that an account takes', () => {
  it('is none where the account stands for a bank account, or money only goes through it', () => {
    expect(takesTax({ ...account('expense'), isBank: true })).toBe(false);
    const taxed = accountRoles.filter((role) => takesTax({ ...account('asset'), role }));
    expect(taxed).toEqual(['fixedAssets']);
  });

  it('is the code’s on deposits that the books mark as taxed, and stays none on owner’s money', () => {
    const marked = accountRoles.filter((role) => takesTax({ ...account('asset', 'byCode'), role }));
    expect(marked).toEqual(['fixedAssets', 'deposits']);
    const types = accountTypes.filter((type) => takesTax(account(type, 'byCode')));
    expect(types).toEqual(['asset', 'liability', 'income', 'expense']);
  });

  it('fits a code for the other side only where the code decides', () => {
    expect(fitsTax(account('expense'), 'sales')).toBe(false);
    expect(fitsTax(account('liability', 'byCode'), 'purchases')).toBe(true);
    expect(fitsTax(account('equity'), 'both')).toBe(false);
  });
});

it('money that is received or deposited comes in, what is paid goes out', () => {
  const kinds = ['receipt', 'deposit', 'payment', 'cheque'] as const;
  expect(kinds.map(handDirection)).toEqual([1, 1, -1, -1]);
});
