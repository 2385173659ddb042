import type { BooksId, UserId } from '@zubrell/core/ids';
import type { Tx } from '../../db/database.ts';
import { booksSetup } from '../books/queries.ts';
import type { AccountFacts } from './accountFacts.ts';

/** How what a statement names is called in its report. */
export interface ReportNames {
  readonly books: string;
  readonly bankAccount: string;
  /** ISO 4217. */
  readonly currency: string;
  readonly holder: (cardholder: string) => string;
  readonly payee: (id: string | null) => string;
  readonly account: (id: string | null) => string;
  /** With its code. */
  readonly accountLabel: (id: string | null) => string;
}

/** The names for the report of a statement of an account. */
export async function reportNames(
  tx: Tx,
  booksId: BooksId,
  userId: UserId,
  { bankAccountId, name, currency }: Pick<AccountFacts, 'bankAccountId' | 'name' | 'currency'>,
): Promise<ReportNames> {
  const { books, accounts, payees, bankAccounts } = await booksSetup(tx, booksId, userId);
  const holders = bankAccounts.find(({ id }) => id === bankAccountId)?.holderNames ?? {};
  return {
    books: books.name,
    bankAccount: name,
    currency,
    holder: (cardholder) => holders[cardholder] ?? cardholder,
    payee: namesOf(payees, ({ name: payee }) => payee),
    account: namesOf(accounts, ({ name: account }) => account),
    accountLabel: namesOf(accounts, ({ code, name: account }) => `${code} ${account}`),
  };
}

/** Names by id; what was merged is called as what it was merged into. */
function namesOf<Thing extends { readonly id: string; readonly mergedInto: string | null }>(
  things: readonly Thing[],
  nameOf: (thing: Thing) => string,
): (id: string | null) => string {
  const named = new Map<string, string>(things.map((thing) => [thing.id, nameOf(thing)]));
  for (const thing of things) {
    if (thing.mergedInto !== null) named.set(thing.id, named.get(thing.mergedInto) ?? '');
  }
  return (id) => named.get(id ?? '') ?? '';
}
