import { HALF_DAYS } from '@zubrell/core/pair/findHalves';
import { type SQL, sql } from 'drizzle-orm';
import { countRows, type Tx } from './database.ts';

/**
 * Whether line `l` may be the other half of a line of an account in another currency: it goes the other way, some days
 * apart. Both stand on bank accounts.
 *
 * @param line the alias of the other line
 */
export function mayBeHalfOf(line: SQL): SQL {
  return sql`(sign(l.amount) = -sign(${line}.amount)
    and l.date between ${line}.date - ${HALF_DAYS}::int and ${line}.date + ${HALF_DAYS}::int
    and exists (
      select from bank_accounts here
      join bank_accounts there on there.books_id = here.books_id
        and there.currency is distinct from here.currency
      where here.books_id = l.books_id and here.id = l.bank_account_id
        and there.id = ${line}.bank_account_id))`;
}

/** Whether any bank account of the books is in another currency: only then halves of other amounts are looked for. */
export async function hasOtherCurrency(tx: Tx, booksId: string): Promise<boolean> {
  const found = await countRows(
    tx,
    sql`select from bank_accounts
        where books_id = ${booksId} and is_here and currency is not null limit 1`,
  );
  return found > 0;
}
