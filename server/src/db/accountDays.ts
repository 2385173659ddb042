import type { BooksId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';

/**
 * What moved on each account by day, as a table to select from: `account_id` is the account in which it is shown, its own
 * or the one that this was merged into.
 */
export function accountDays(booksId: BooksId): SQL {
  return sql`(
    select coalesce(a.merged_into, a.id) as account_id, m.date, m.count, m.amount, m.debits, m.own
    from moved_days m
    join accounts a on a.books_id = m.books_id and a.id = m.account_id
    where m.books_id = ${booksId} and m.count > 0)`;
}
