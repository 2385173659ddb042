import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';

const HasRow = z.object({ has: z.boolean() });

/**
 * Whether there can be anything to pair at all: the books have documents, entries made by hand, or several bank
 * accounts. Where there is nothing, nothing is looked for.
 */
export async function hasToPair(tx: Tx, booksId: BooksId): Promise<boolean> {
  const [row] = await rowsOf(
    tx,
    HasRow,
    sql`select exists (select from documents where books_id = ${booksId})
          or exists (select from entries where books_id = ${booksId} and content is not null)
          or (select count(*) > 1 from bank_accounts where books_id = ${booksId} and is_here) as has`,
  );
  return row?.has ?? false;
}
