import type { Account, BooksSetup, HideableField } from '@zubrell/contract/books';
import { usualAges } from '@zubrell/core/closing/months';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { type TaxedAccount, takesTax } from '@zubrell/core/ledger/taxSide';
import { usualLeaves } from '@zubrell/core/people/leaves';
import { createContext, useContext } from 'react';
import { useParams } from 'react-router';
import { formatAmount } from './formats.ts';

/** The books on the screen, with short ways to name what is in them. */
export interface ShownBooks {
  readonly booksId: BooksId;
  readonly setup: BooksSetup;
  /** Code and name. */
  readonly accountName: (id: string | null) => string;
  readonly payeeName: (id: string | null) => string;
  readonly taxName: (id: string | null) => string;
  readonly bankAccountName: (id: string) => string;
  /** What a cardholder of a bank account is called; as files name them where nobody has said. */
  readonly holderName: (bankAccountId: string, cardholder: string) => string;
  /** Whether an account can have a tax code; null is no account yet. */
  readonly takesTax: (accountId: AccountId | null) => boolean;
  /** Whether this user works without a field; one that the books demand is never hidden. */
  readonly isHidden: (field: HideableField) => boolean;
  /** In which amounts are shown and typed, ISO 4217: that of the books, or another where a part of the screen is in it. */
  readonly currency: string;
  /** In another currency than that of the books with its letters. @example '−100.00 USD' */
  readonly amount: (minor: number, options?: AmountOptions) => string;
  readonly currencyOf: (bankAccountId: string) => string;
}

interface AmountOptions {
  readonly plus?: boolean;
  /** In which the amount is; left out for that of the part of the screen. */
  readonly currency?: string;
}

/**
 * Books of which amounts are shown and typed in a currency.
 *
 * @param isBare whether the letters are left out, where they stand above the amounts
 */
export function inCurrency(books: ShownBooks, currency: string, isBare = false): ShownBooks {
  if (currency === books.currency && !isBare) return books;
  const own = books.setup.books.currency;
  return {
    ...books,
    currency,
    amount: (minor, { currency: given = currency, ...options } = {}) => {
      const shown = formatAmount(minor, given, options);
      return given === own || (isBare && given === currency) ? shown : `${shown} ${given}`;
    },
  };
}

/** The id of the books in the address. */
export function useBooksId(): string {
  return useParams().booksId ?? '';
}

/** The books on the screen, worked out once for all that show them. */
export const BooksContext = createContext<ShownBooks>(shownBooks('', nothing()));

/** The books in the address; the shell shows screens only when they are there. */
export function useBooks(): ShownBooks {
  return useContext(BooksContext);
}

function nothing(): BooksSetup {
  return {
    books: {
      id: '',
      name: '',
      currency: 'EUR',
      address: '',
      taxNumber: '',
      country: '',
      role: 'reviewer',
      lockDate: null,
      assetThreshold: null,
      demands: {},
      yearBegins: 1,
      accountsMadeBy: 'owner',
      usesOtherBooks: false,
      leaves: usualLeaves,
      isArchived: false,
      ages: usualAges,
      taxReportedTo: null,
      receiptFrom: null,
      preferences: { hiddenFields: [], bankFields: [] },
      owners: [],
    },
    accounts: [],
    taxCodes: [],
    payees: [],
    costObjects: [],
    bankAccounts: [],
  };
}

/** Books as screens show them. */
export function shownBooks(booksId: BooksId, setup: BooksSetup): ShownBooks {
  const labels = new Map(setup.accounts.map((account) => [account.id, accountLabel(account)]));
  const accounts = new Map(
    setup.accounts.map(({ id, mergedInto }) => [id, labels.get(mergedInto ?? id)]),
  );
  const names = new Map(setup.payees.map(({ id, name }) => [id, name]));
  const payees = new Map(
    setup.payees.map(({ id, name, mergedInto }) => [id, names.get(mergedInto ?? id) ?? name]),
  );
  const taxes = new Map(setup.taxCodes.map(({ id, name }) => [id, name]));
  const banks = new Map(setup.bankAccounts.map((bank) => [bank.id, bankAccountLabel(bank)]));
  return {
    booksId,
    setup,
    accountName: (id) => (id && accounts.get(id)) ?? '',
    payeeName: (id) => (id && payees.get(id)) ?? '',
    taxName: (id) => (id && taxes.get(id)) ?? '',
    bankAccountName: (id) => banks.get(id) ?? '',
    holderName: (bankAccountId, cardholder) =>
      setup.bankAccounts.find(({ id }) => id === bankAccountId)?.holderNames[cardholder] ??
      cardholder,
    takesTax: (id) => {
      const account = id === null ? null : taxedAccount(setup, id);
      return id === null || (account !== null && takesTax(account));
    },
    isHidden: (field) => {
      const isDemanded = Object.values(setup.books.demands).some((own) => own.includes(field));
      return !isDemanded && setup.books.preferences.hiddenFields.includes(field);
    },
    currency: setup.books.currency,
    amount: (minor, { currency = setup.books.currency, ...options } = {}) => {
      const shown = formatAmount(minor, currency, options);
      return currency === setup.books.currency ? shown : `${shown} ${currency}`;
    },
    currencyOf: (bankAccountId) =>
      setup.bankAccounts.find(({ id }) => id === bankAccountId)?.currency ?? setup.books.currency,
  };
}

/** Whether this user may make accounts. */
export function mayMakeAccounts({ books }: Pick<BooksSetup, 'books'>): boolean {
  return (
    books.role === 'owner' || (books.role === 'bookkeeper' && books.accountsMadeBy !== 'owner')
  );
}

/** What of an account decides about tax; null where it isn't there. */
export function taxedAccount(
  { accounts, bankAccounts }: Pick<BooksSetup, 'accounts' | 'bankAccounts'>,
  accountId: AccountId,
): TaxedAccount | null {
  const account = accounts.find(({ id }) => id === accountId);
  const isBank = bankAccounts.some((bank) => bank.accountId === accountId);
  return account ? { ...account, isBank } : null;
}

/** The accounts that were not merged into others. */
export function standing(accounts: readonly Account[]): Account[] {
  return accounts.filter(({ mergedInto }) => mergedInto === null);
}

/** An account's code and name. */
export function accountLabel(account: Pick<Account, 'code' | 'name'>): string {
  return `${account.code} ${account.name}`;
}

/** A bank account's name with the end of its number. */
export function bankAccountLabel(bank: {
  readonly name: string;
  readonly number: string | null;
}): string {
  return bank.number === null ? bank.name : `${bank.name} ·· ${bank.number.slice(-4)}`;
}
