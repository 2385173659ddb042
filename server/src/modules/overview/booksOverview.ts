import { BooksOverview } from '@zubrell/contract/overview';
import type { UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';

/** The books a user is a member of, by name, each with its kept summary; who only answers questions sees none. */
export function booksOverview(tx: Tx, userId: UserId): Promise<BooksOverview[]> {
  return rowsOf(
    tx,
    BooksOverview,
    sql`select k.id, k.name, k.currency, m.role, k.is_archived as "isArchived",
          case when m.role <> 'client' then s.summary end as summary
        from memberships m
        join books k on k.id = m.books_id
        left join books_summaries s on s.books_id = k.id
        where m.user_id = ${userId}
        order by k.name`,
  );
}
