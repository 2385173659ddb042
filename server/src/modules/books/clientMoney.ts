import type { AccountId, BooksId } from '@zubrell/core/ids';
import type { ClientMoneyBooks } from '@zubrell/core/ledger/clientMoney';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { NamedRow } from '../../db/rows.ts';

/** The bank accounts of the books that hold clients' money, by their ledger accounts. */
export interface ClientMoney extends Pick<ClientMoneyBooks, 'holdsClients'> {
  readonly isUsed: boolean;
  /** The name of the bank account. */
  readonly nameOf: (accountId: AccountId) => string;
}

/** Which bank accounts hold clients' money. */
export async function clientMoneyOf(tx: Tx, booksId: BooksId): Promise<ClientMoney> {
  const rows = await rowsOf(
    tx,
    NamedRow,
    sql`select account_id as id, name from bank_accounts
        where books_id = ${booksId} and kind = 'clientMoney' and is_here`,
  );
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  return {
    isUsed: rows.length > 0,
    holdsClients: (accountId) => names.has(accountId),
    nameOf: (accountId) => names.get(accountId) ?? '',
  };
}
