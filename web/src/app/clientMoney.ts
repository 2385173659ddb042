import type { BooksSetup } from '@zubrell/contract/books';
import type { ClientMoneyBooks } from '@zubrell/core/ledger/clientMoney';

/** What the screens know of clients' money in the books. */
export function clientMoneyOf({
  bankAccounts,
  payees,
}: Pick<BooksSetup, 'bankAccounts' | 'payees'>): ClientMoneyBooks {
  return {
    holdsClients: (accountId) =>
      bankAccounts.some((bank) => bank.accountId === accountId && bank.kind === 'clientMoney'),
    isCustomer: (payeeId) => payees.some(({ id, kind }) => id === payeeId && kind === 'customer'),
  };
}

/** The ledger account of a bank account; null where that isn't in the books. */
export function ledgerOf(
  { bankAccounts }: Pick<BooksSetup, 'bankAccounts'>,
  bankAccountId: string | null,
): string | null {
  return bankAccounts.find(({ id }) => id === bankAccountId)?.accountId ?? null;
}
