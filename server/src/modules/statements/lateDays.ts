import type { BooksId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';
import { isWeighed } from '../decisions/isWeighed.ts';
import { bankDays } from '../proof/bankDays.ts';

/**
 * The days, up to which each bank account is closed, on which the bank moved something else than what agreed statements
 * count of that day, as a table of `bank_account_id` and `date` to select from: on these, and on no others, lies what
 * came or was moved since. Read from sums by day, so that no line of what is closed has to be looked at.
 */
export function lateDays(booksId: BooksId): SQL {
  return sql`(
    select bank_account_id, date from (
      select d.bank_account_id, d.date, d.count, d.amount from ${bankDays(booksId)} d
      join bank_accounts b on b.books_id = ${booksId} and b.id = d.bank_account_id
      where d.date <= b.closed_to and ${isWeighed}
      union all
      select c.bank_account_id, c.date, -c.count, -c.amount from counted_days c
      join bank_accounts b on b.books_id = ${booksId} and b.id = c.bank_account_id
      where c.books_id = ${booksId} and c.kind = 'line' and c.date <= b.closed_to) closed
    group by bank_account_id, date having sum(count) <> 0 or sum(amount) <> 0)`;
}
