import { type SQL, sql } from 'drizzle-orm';

/** How much of document `d` is still open, signed like it. */
export const openOfDocument: SQL = sql`(d.amount - (
  select coalesce(sum(a.amount), 0) from allocations a
  where a.books_id = d.books_id and a.document_id = d.id and a.is_live))`;

/** What stands in the books for what is open of document `d`, signed like it. */
export const openWorth: SQL = sql`(coalesce(d.worth, d.amount) - (
  select coalesce(sum(coalesce(a.worth, a.amount)), 0) from allocations a
  where a.books_id = d.books_id and a.document_id = d.id and a.is_live))`;
