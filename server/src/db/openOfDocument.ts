import { type SQL, sql } from 'drizzle-orm';

/** How much of document `d` is still open, signed like it. */
export const openOfDocument: SQL = sql`(d.amount - (
  select coalesce(sum(a.amount), 0) from allocations a
  where a.books_id = d.books_id and a.document_id = d.id and a.is_live))`;
