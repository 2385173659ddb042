import type { AccountUse, BooksSetup, PayeeUse } from '@zubrell/contract/books';
import { isControlRole } from '@zubrell/core/ledger/accountRoles';
import { t } from '@zubrell/core/words/t';
import { useMemo } from 'react';
import { booksApi } from '../api/books.ts';
import type { Choice } from '../ui/matchingChoices.ts';
import { accountLabel, useBooks } from './useBooks.ts';

/** The fields of a coding that are chosen from what is in the books. */
export type CodedField = 'payeeId' | 'accountId' | 'taxCodeId';

/** What was posted so far, by payee and by account. */
export interface Uses {
  readonly payees: readonly PayeeUse[];
  readonly accounts: readonly AccountUse[];
}

/**
 * Every posting changes them, but they matter only where somebody chooses: a field that opens reads them again if they
 * are older than this, in seconds.
 */
const FRESH = { refetchOnMountOrArgChange: 5 };

/** What was posted so far, as far as it is known here. */
export function useUses(): Uses {
  const { booksId } = useBooks();
  const payees = booksApi.usePayeeUsesQuery(booksId, FRESH).data?.uses;
  const accounts = booksApi.useAccountUsesQuery(booksId, FRESH).data?.uses;
  return useMemo(() => ({ payees: payees ?? [], accounts: accounts ?? [] }), [payees, accounts]);
}

/**
 * What can be chosen for a field, what is used most first.
 *
 * @param areBanksIn whether bank accounts are among the accounts: coding to one moves the money there
 */
export function useChoices(
  field: CodedField,
  { payees, accounts }: Uses,
  areBanksIn = true,
): readonly Choice[] {
  const { setup } = useBooks();
  return useMemo(
    () =>
      field === 'payeeId'
        ? payeeChoices(setup, payees)
        : field === 'accountId'
          ? accountChoices(setup, accounts, areBanksIn)
          : taxChoices(setup),
    [field, setup, payees, accounts, areBanksIn],
  );
}

function taxChoices(setup: BooksSetup): Choice[] {
  return setup.taxCodes.filter(({ isOn }) => isOn).map(({ id, name }) => ({ id, label: name }));
}

function payeeChoices(setup: BooksSetup, uses: readonly PayeeUse[]): Choice[] {
  const times = new Map(uses.map(({ payeeId, entryCount }) => [payeeId, entryCount]));
  return setup.payees
    .filter(({ isOn }) => isOn)
    .sort((a, b) => (times.get(b.id) ?? 0) - (times.get(a.id) ?? 0))
    .map(({ id, name }) => ({ id, label: name }));
}

function accountChoices(
  setup: BooksSetup,
  uses: readonly AccountUse[],
  areBanksIn: boolean,
): Choice[] {
  const times = new Map(uses.map((use) => [use.accountId, use.times]));
  const parents = new Set(setup.accounts.map(({ parentId }) => parentId));
  const banks = new Set(setup.bankAccounts.map(({ accountId }) => accountId));
  return setup.accounts
    .filter(({ id, isOn, role }) => isOn && !isControlRole(role) && (areBanksIn || !banks.has(id)))
    .sort(
      (a, b) =>
        Number(banks.has(a.id)) - Number(banks.has(b.id)) ||
        (times.get(b.id) ?? 0) - (times.get(a.id) ?? 0) ||
        Number(parents.has(a.id)) - Number(parents.has(b.id)),
    )
    .map((account) => ({
      id: account.id,
      label: accountLabel(account),
      hint: banks.has(account.id) ? t`own account: a transfer` : account.type,
      words: account.purpose,
    }));
}
