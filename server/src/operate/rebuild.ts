import { sql } from 'drizzle-orm';
import type { z } from 'zod';
import { type Database, inBooks, rowsOf, type Tx } from '../db/database.ts';
import { type NamedRow, StemRow } from '../db/rows.ts';
import { rebuildHabits } from '../modules/habits/rebuildHabits.ts';
import { isOpenLine } from '../modules/lines/lineState.ts';
import { queueRenewal } from '../modules/proposals/renewProposals.ts';
import { type Outcome, withNamedBooks } from './namedBooks.ts';

/**
 * Works out anew what follows from the steps of books: what habits learned, at once, and what is proposed for open
 * lines, by the next server. Says whether habits had been kept up as they should.
 *
 * @param owner the database as the tables' owner, who sees the rows of all books
 * @param database the same as the program sees it
 * @param name the books' id, or their name
 */
export async function rebuild(owner: Database, database: Database, name: string): Promise<Outcome> {
  return owner.transaction((named) =>
    withNamedBooks(named, name, (books) =>
      inBooks(database, books.id, (tx) => rebuildIn(tx, books)),
    ),
  );
}

async function rebuildIn(tx: Tx, books: z.infer<typeof NamedRow>): Promise<Outcome> {
  // No step comes in between.
  await tx.execute(sql`select from books where id = ${books.id} for no key update`);
  const { lines, differing } = await rebuildHabits(tx, books.id);
  const open = await rowsOf(
    tx,
    StemRow,
    sql`select distinct l.stem from lines l where l.books_id = ${books.id} and ${isOpenLine}`,
  );
  await queueRenewal(
    tx,
    books.id,
    open.map(({ stem }) => stem),
  );
  return {
    lines: [
      `${books.name} (${books.id})`,
      differing === 0
        ? `Habits: ${lines} decided lines learned again, with the same result.`
        : `Habits: ${lines} decided lines learned again, ${differing} with another result. Please report this.`,
      open.length === 0
        ? 'Proposals: no line is open.'
        : `Proposals: renewed for all open lines as soon as a server runs.`,
    ],
    code: differing === 0 ? 0 : 1,
  };
}
