import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';

/** A balance that a bank account's bank states at the end of a day. */
export const StatedRow = z.object({ id: z.string(), date: z.string(), amount: z.int() });

/**
 * The balances that banks state at the end of days: of kept batches the closing balance, the opening one and end-of-day
 * ones. Of several for one day the newest batch's counts.
 *
 * @param bankAccountId only of this one
 */
export function statedBalances(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId | null = null,
): Promise<z.infer<typeof StatedRow>[]> {
  return rowsOf(
    tx,
    StatedRow,
    sql`select distinct on (id, date) id, date, amount from (
          select bank_account_id as id, closing_date as date, closing as amount, created_at, 0 as rank
          from batches where books_id = ${booksId} and status = 'kept' and closing is not null
          union all
          select bank_account_id, from_date - 1, opening, created_at, 2
          from batches where books_id = ${booksId} and status = 'kept' and opening is not null
          union all
          select b.bank_account_id, d.date, d.amount, b.created_at, 1
          from day_balances d
          join batches b on b.books_id = d.books_id and b.id = d.batch_id and b.status = 'kept'
          where d.books_id = ${booksId}) points
        where date is not null
          and ${bankAccountId === null ? sql`true` : sql`id = ${bankAccountId}`}
        order by id, date, created_at desc, rank`,
  );
}
