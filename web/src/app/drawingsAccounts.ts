import type { Account, BooksSetup } from '@zubrell/contract/books';

/** The accounts that personal spending goes to: of each owner who has one, else the one that the books have for all. */
export function drawingsAccounts({
  accounts,
  payees,
}: Pick<BooksSetup, 'accounts' | 'payees'>): readonly Account[] {
  const own = payees.flatMap(({ kind, isOn, accountId }) =>
    kind === 'owner' && isOn && accountId !== null ? [accountId] : [],
  );
  const owned = accounts.filter(({ id }) => own.includes(id));
  return owned.length > 0 ? owned : accounts.filter(({ role }) => role === 'drawings');
}
