import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';

const OpenRow = z.object({ count: z.int(), amount: z.int() });

/** How many lines of a period nobody has decided yet, and what they come to whatever their sign. */
export async function openInPeriod(
  tx: Tx,
  booksId: BooksId,
  { from, to }: { readonly from: string; readonly to: string },
): Promise<z.infer<typeof OpenRow>> {
  const [open] = await rowsOf(
    tx,
    OpenRow,
    sql`select count(*)::int as count, coalesce(sum(abs(l.amount)), 0)::bigint as amount from open_lines l
        where l.books_id = ${booksId} and l.date between ${from} and ${to}`,
  );
  return open ?? { count: 0, amount: 0 };
}
