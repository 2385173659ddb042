import type { AccountType } from './kinds.ts';
import type { AccountRole } from './starterBooks.ts';

/** Which tax account a part touches: tax paid to suppliers, or tax charged to customers. */
export type TaxSide = 'input' | 'output';

/** What of an account decides about tax. */
export interface TaxedAccount {
  readonly type: AccountType;
  readonly role: AccountRole | null;
  /** Whether it stands for a bank account of these books. */
  readonly isBank: boolean;
}

/** Uses of accounts that money goes through without being bought or sold for. */
const UNTAXED: ReadonlySet<AccountRole | null> = new Set<AccountRole>([
  'openingEquity',
  'inputTax',
  'outputTax',
  'drawings',
  'suspense',
  'transfers',
  'deposits',
  'taxOwed',
  'wagesOwed',
  'loans',
  'receivables',
  'payables',
]);

/**
 * Which side of the tax an account takes, from what it is and not from the sign: a supplier's refund lowers input tax,
 * a customer's lowers output tax. Owner's money, loans, moves between own accounts and what is owed take none.
 *
 * @returns null for an account that takes no tax
 * @example taxSide({ type: 'expense', role: null, isBank: false }) // 'input'
 * @example taxSide({ type: 'equity', role: 'drawings', isBank: false }) // null
 */
export function taxSide({ type, role, isBank }: TaxedAccount): TaxSide | null {
  if (isBank || UNTAXED.has(role)) return null;
  switch (type) {
    case 'expense':
    case 'asset':
      return 'input';
    case 'income':
      return 'output';
    case 'liability':
    case 'equity':
      return null;
  }
}
