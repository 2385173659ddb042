import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Database, rowsOf, type Tx } from '../../db/database.ts';

// What the database keeps of open lines and of the number of decided ones, against what lines and decisions say.

const columns = sql`books_id, line_id, bank_account_id, date, amount, stem, asked, held, is_twice, proposed, digest,
  account_id, payee_id, is_pair, equal_lines`;

const counted = sql`
  select l.books_id, l.bank_account_id, l.date, l.amount < 0 as is_out, d.kind, count(*)::int as count
  from lines l
  join decision_lines t on t.books_id = l.books_id and t.line_id = l.id and t.is_live
  join decisions d on d.books_id = t.books_id and d.id = t.decision_id
  where l.is_here group by 1, 2, 3, 4, 5`;

const CountRow = z.object({ count: z.number() });

/**
 * How many rows are kept otherwise than they should be: none, unless it is a fault of the program.
 *
 * @param owner the database as the tables' owner
 * @param booksId of which books; null is of all
 */
export async function keptWrong(owner: Tx | Database, booksId: BooksId | null): Promise<number> {
  const here = booksId === null ? sql`true` : sql`books_id = ${booksId}`;
  const [row] = await rowsOf(
    owner,
    CountRow,
    sql`with kept as (select ${columns} from open_lines where ${here}),
        wanted as (select ${columns} from lines_that_are_open where ${here}),
        counts as (
          select books_id, bank_account_id, date, is_out, kind, count from decided_counts
          where count <> 0 and ${here}),
        counted as (select * from (${counted}) c where ${here})
        select ((select count(*) from (select * from kept except select * from wanted) a)
          + (select count(*) from (select * from wanted except select * from kept) b)
          + (select count(*) from (select * from counts except select * from counted) c)
          + (select count(*) from (select * from counted except select * from counts) d))::int as count`,
  );
  return row?.count ?? 0;
}

/** Works both out anew. @param owner a transaction of the tables' owner in which nobody else changes these books */
export async function keepAnew(owner: Tx, booksId: BooksId): Promise<void> {
  await owner.execute(sql`delete from open_lines where books_id = ${booksId}`);
  await owner.execute(
    sql`insert into open_lines (${columns})
        select ${columns} from lines_that_are_open where books_id = ${booksId}`,
  );
  await owner.execute(sql`delete from decided_counts where books_id = ${booksId}`);
  await owner.execute(
    sql`insert into decided_counts (books_id, bank_account_id, date, is_out, kind, count)
        select * from (${counted}) c where c.books_id = ${booksId}`,
  );
}
