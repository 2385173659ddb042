import { ClearingItem } from '@zubrell/contract/reports';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { lineBehind } from '../../db/lineBehind.ts';

/** What stands on suspense and between own accounts on a day: all since each account last came to zero. */
export async function clearingItems(
  tx: Tx,
  booksId: BooksId,
  on: string,
): Promise<{ items: ClearingItem[] }> {
  const items = await rowsOf(
    tx,
    ClearingItem,
    sql`with moved as (
          select m.*, sum(m.amount) over happened as balance, row_number() over happened as rank
          from movements m
          join accounts a on a.books_id = m.books_id and a.id = m.account_id and a.is_here
            and a.role in ('suspense', 'transfers')
          where m.books_id = ${booksId} and m.date <= ${on}
          window happened as (
            partition by m.account_id order by m.date, m.step, m.leg_id, m.turned)),
        settled as (
          select account_id, coalesce(max(rank) filter (where balance = 0), 0) as rank
          from moved group by 1)
        select m.account_id as "accountId", m.leg_id as "legId", m.entry_id as "entryId", m.date,
          e.payee_id as "payeeId", coalesce(src.description, e.note, '') as text, m.amount, u.name as who
        from moved m
        join settled z on z.account_id = m.account_id
        join entries e on e.books_id = m.books_id and e.id = m.entry_id
        join steps s on s.books_id = m.books_id and s.no = m.step
        join users u on u.id = s.user_id
        left join lateral (${lineBehind(sql`m.books_id`, sql`m.entry_id`)}) src on true
        where m.rank > z.rank order by m.date, m.step, m.leg_id`,
  );
  return { items };
}
