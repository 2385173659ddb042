import type { BooksId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';

/**
 * What the bank moved by its lines, by bank account and day, as a table to select from: of decided ones
 * by side and by how they were decided too, with how many they are; `asked` is whether the client is. To be named `d`, as a decision is, see `isWeighed`.
 */
export function bankDays(booksId: BooksId): SQL {
  return sql`(
    select bank_account_id, date, sum(amount) as amount, count(*) as count, null as kind, null as reason, asked from open_lines
    where books_id = ${booksId} group by bank_account_id, date, asked
    union all
    select bank_account_id, date, amount, count, kind, reason, null from decided_days
    where books_id = ${booksId} and count > 0)`;
}

/** The day of the newest line of bank account `b`; null where it has none. */
export const lastBankDay: SQL = sql`greatest(
  (select max(o.date) from open_lines o where o.books_id = b.books_id and o.bank_account_id = b.id),
  (select max(y.date) from decided_days y
    where y.books_id = b.books_id and y.bank_account_id = b.id and y.count > 0))`;
