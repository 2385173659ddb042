import type { BooksSetup } from '@zubrell/contract/books';
import type { OwnersAccounts } from '@zubrell/core/reports/ownersMoney';
import { t } from '@zubrell/core/words/t';

/** The owners with the accounts that are theirs, and last what the books have for all of them. */
export function ownersAccounts({
  accounts,
  payees,
}: Pick<BooksSetup, 'accounts' | 'payees'>): readonly OwnersAccounts[] {
  const merged = new Map(accounts.map(({ id, mergedInto }) => [id, mergedInto ?? id]));
  const shown = (id: string | null) => (id === null ? null : (merged.get(id) ?? id));
  const owners = payees
    .filter(({ kind, mergedInto }) => kind === 'owner' && mergedInto === null)
    .map(({ name, accountId, capitalAccountId }) => ({
      name,
      drawings: shown(accountId),
      capital: shown(capitalAccountId),
    }));
  const taken = new Set(owners.flatMap(({ drawings, capital }) => [drawings, capital]));
  const ofRole = (wanted: 'drawings' | 'capital') => {
    const id = accounts.find(({ role }) => role === wanted)?.id ?? null;
    return taken.has(id) ? null : id;
  };
  const all = { name: t`All owners`, drawings: ofRole('drawings'), capital: ofRole('capital') };
  return [...owners, all];
}
