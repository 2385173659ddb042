import { type SQL, sql } from 'drizzle-orm';

/** What is open of document `d`, as `od`, which says nothing where nothing is. */
export const joinOpenDocument: SQL = sql`
  left join open_documents od on od.books_id = d.books_id and od.document_id = d.id`;

/** How much of document `d` is still open, signed like it. Behind {@link joinOpenDocument}. */
export const openOfDocument: SQL = sql`coalesce(od.amount, 0)`;

/** What stands in the books for what is open of document `d`, signed like it. Behind {@link joinOpenDocument}. */
export const openWorth: SQL = sql`coalesce(od.worth, 0)`;
