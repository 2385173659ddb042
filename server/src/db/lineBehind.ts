import { type SQL, sql } from 'drizzle-orm';

/** Selects as `id` and `description` the bank's line that an entry was made for, or is paired with. */
export function lineBehind(booksId: SQL, entryId: SQL): SQL {
  return sql`select l.id, l.description from legs b
    join decision_legs x on x.books_id = b.books_id and x.leg_id = b.id and x.is_live
    join decision_lines dl
      on dl.books_id = x.books_id and dl.decision_id = x.decision_id and dl.is_live
    join lines l on l.books_id = dl.books_id and l.id = dl.line_id
    where b.books_id = ${booksId} and b.entry_id = ${entryId}
    order by l.date limit 1`;
}
