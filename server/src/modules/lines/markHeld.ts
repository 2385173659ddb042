import type { BankAccountId, BooksId, LineId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { Tx } from '../../db/database.ts';
import { isOpenLine } from './lineState.ts';

/**
 * Notes which open lines are held for a decision, because of what is closed and of opening balances as they stand
 * now. Lines that were held, and no longer have to be, are let go.
 *
 * @param bankAccountId only lines of this one
 * @param lineIds only these
 */
export async function markHeld(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId | null = null,
  lineIds: readonly LineId[] | null = null,
): Promise<void> {
  const isNamed = lineIds === null ? sql`true` : sql`id = any(${sql.param(lineIds)}::uuid[])`;
  await tx.execute(
    sql`with account as (
          select b.id, greatest(b.closed_to, k.lock_date) as closed,
            (select e.date from entries e
              where e.books_id = b.books_id and e.opening_of = b.id and not e.is_void) as opening
          from bank_accounts b join books k on k.id = b.books_id
          where b.books_id = ${booksId}
            and ${bankAccountId === null ? sql`true` : sql`b.id = ${bankAccountId}`}),
        due as (
          select l.id, case when l.date <= a.opening then 'beforeOpening'
            when l.date <= a.closed then 'late' end as held
          from account a
          cross join lateral (
            select id from lines
            where books_id = ${booksId} and bank_account_id = a.id and held is not null and ${isNamed}
            union
            select id from lines
            where books_id = ${booksId} and bank_account_id = a.id
              and date <= greatest(a.opening, a.closed) and ${isNamed}) looked_at
          join lines l on l.books_id = ${booksId} and l.id = looked_at.id and ${isOpenLine})
        update lines l set held = due.held from due
        where l.books_id = ${booksId} and l.id = due.id and l.held is distinct from due.held`,
  );
}
