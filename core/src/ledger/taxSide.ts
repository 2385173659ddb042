import type { AccountRole } from './accountRoles.ts';
import type { AccountTax, AccountType, TaxSide, TaxUse } from './kinds.ts';

/** What of an account decides about tax. */
export interface TaxedAccount {
  readonly type: AccountType;
  readonly role: AccountRole | null;
  /** Whether it stands for a bank account of these books. */
  readonly isBank: boolean;
  readonly tax: AccountTax;
}

/** Uses of accounts that never take tax, whatever the books say. */
const NEVER: ReadonlySet<AccountRole | null> = new Set<AccountRole>([
  'openingEquity',
  'inputTax',
  'outputTax',
  'drawings',
  'capital',
  'clientMoney',
  'suspense',
  'transfers',
  'taxOwed',
  'wagesOwed',
  'loans',
  'exchange',
  'receivables',
  'payables',
]);

/**
 * Which side of the tax an account takes, from what it is and not from the sign: a supplier's refund lowers input tax,
 * a customer's lowers output tax. Owner's money, loans, moves between own accounts and what is owed take none.
 * Prepayments and deposits that the books mark as taxed take the side that the code is for.
 *
 * @param use what the tax code is for
 * @returns null for an account that takes no tax
 * @example taxSide({ type: 'expense', role: null, isBank: false, tax: 'byType' }, 'both') // 'input'
 * @example taxSide({ type: 'equity', role: 'drawings', isBank: false, tax: 'byType' }, 'both') // null
 * @example taxSide({ type: 'liability', role: null, isBank: false, tax: 'byCode' }, 'sales') // 'output'
 */
export function taxSide(account: TaxedAccount, use: TaxUse): TaxSide | null {
  const { type, tax } = account;
  if (!takesTax(account)) return null;
  if (tax === 'byCode' && use !== 'both') return use === 'sales' ? 'output' : 'input';
  return type === 'income' || type === 'liability' ? 'output' : 'input';
}

/** Whether an account can have a tax code at all. */
export function takesTax({ type, role, isBank, tax }: TaxedAccount): boolean {
  if (isBank || NEVER.has(role)) return false;
  switch (tax) {
    case 'never':
      return false;
    case 'byCode':
      return type !== 'equity';
    case 'byType':
      return role !== 'deposits' && type !== 'liability' && type !== 'equity';
  }
}

/** Whether an account can have a tax code for this use. */
export function fitsTax(account: TaxedAccount, use: TaxUse): boolean {
  const side = taxSide(account, use);
  return side !== null && (use === 'both' || use === useOfSide[side]);
}

/** The use that a tax code must have to be on this side. */
export const useOfSide = { input: 'purchases', output: 'sales' } as const satisfies Record<
  TaxSide,
  TaxUse
>;
