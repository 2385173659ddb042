import type { Account, BooksSetup } from '@zubrell/contract/books';
import type { EnterByHand } from '@zubrell/contract/ledger';
import type { AccountId } from '@zubrell/core/ids';
import { isControlRole } from '@zubrell/core/ledger/accountRoles';
import { sumMinor } from '@zubrell/core/money/minor';
import { t } from '@zubrell/core/words/t';

/** Amounts by account, as a balance sheet has them: what is owned, owed or the owners' is positive. */
export type OpeningAmounts = Readonly<Record<AccountId, number>>;

/** The types of accounts that have a balance when books begin. */
const TYPES = ['asset', 'liability', 'equity'] as const;

/** Accounts that come to zero by themselves, or that balance the others. */
const NEVER = ['openingEquity', 'suspense', 'transfers'] as const;

/** Those of accounts whose opening balance can be typed: no bank accounts, and none that documents make up. */
export function openingAccounts({
  accounts,
  bankAccounts,
}: Pick<BooksSetup, 'accounts' | 'bankAccounts'>): readonly Account[] {
  const banks = new Set(bankAccounts.map(({ accountId }) => accountId));
  const parents = new Set(accounts.map(({ parentId }) => parentId));
  return accounts.filter(
    ({ id, type, role, isOn, mergedInto }) =>
      isOn &&
      mergedInto === null &&
      TYPES.some((each) => each === type) &&
      !NEVER.some((each) => each === role) &&
      !isControlRole(role) &&
      !banks.has(id) &&
      !parents.has(id),
  );
}

/** What opening equity comes to: what is owned less what is owed and the owners' already. */
export function openingRest(accounts: readonly Account[], amounts: OpeningAmounts): number {
  return sumMinor(accounts.map((account) => debitOf(account, amounts[account.id] ?? 0)));
}

/**
 * The journal that posts opening balances against opening equity; null while nothing is typed.
 *
 * @param equityId the account for opening equity
 */
export function openingJournal(
  accounts: readonly Account[],
  amounts: OpeningAmounts,
  { date, equityId }: { readonly date: string; readonly equityId: AccountId },
): EnterByHand | null {
  const legs = accounts.flatMap((account) => {
    const amount = debitOf(account, amounts[account.id] ?? 0);
    return amount === 0 ? [] : [{ accountId: account.id, amount }];
  });
  if (legs.length === 0) return null;
  const rest = openingRest(accounts, amounts);
  const against = rest === 0 ? [] : [{ accountId: equityId, amount: -rest }];
  return {
    entry: {
      kind: 'journal',
      date,
      note: t`Opening balances`,
      number: null,
      payeeId: null,
      legs: [...legs, ...against],
    },
  };
}

function debitOf({ type }: Account, amount: number): number {
  return type === 'asset' ? amount : -amount;
}
