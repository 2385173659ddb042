import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { StemRow } from '../../db/rows.ts';
import { renewSoon } from './renewProposals.ts';

/** Proposes anew for open lines whose proposals name one of these. */
export async function renewNaming(tx: Tx, booksId: BooksId, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  const rows = await rowsOf(
    tx,
    StemRow,
    sql`select distinct l.stem from proposals p
        join lines l on l.books_id = p.books_id and l.id = p.line_id
        where p.books_id = ${booksId}
          and p.proposal::text like any(${sql.param(ids.map((id) => `%${id}%`))}::text[])`,
  );
  await renewSoon(
    tx,
    booksId,
    rows.map(({ stem }) => stem),
  );
}
