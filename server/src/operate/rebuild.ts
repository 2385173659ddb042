import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { z } from 'zod';
import { type Database, inBooks, type Tx } from '../db/database.ts';
import { keepAnew, keptWrong } from '../db/keptTables.ts';
import type { NamedRow } from '../db/rows.ts';
import { rebuildHabits } from '../modules/habits/rebuildHabits.ts';
import { openStems, queueRenewal } from '../modules/proposals/renewProposals.ts';
import { type Outcome, withNamedBooks } from './namedBooks.ts';

/**
 * Works out anew what follows from the steps of books: what habits learned and which lines are open, at once, and what
 * is proposed for these, by the next server. Says whether both had been kept up as they should.
 *
 * @param owner the database as the tables' owner, who sees the rows of all books
 * @param database the same as the program sees it
 * @param name the books' id, or their name
 */
export async function rebuild(owner: Database, database: Database, name: string): Promise<Outcome> {
  return owner.transaction((named) =>
    withNamedBooks(named, name, async (books) => {
      const { lines, code } = await inBooks(database, books.id, (tx) => rebuildIn(tx, books));
      await named.execute(lockedBooks(books.id));
      const wrong = await keptWrong(named, books.id);
      await keepAnew(named, books.id);
      const said =
        wrong.length === 0
          ? 'Open lines and sums: worked out again, with the same result.'
          : `Open lines and sums: worked out again, ${wrong.join(', ')} with another result. Please report this.`;
      return { lines: [...lines, said], code: wrong.length === 0 ? code : 1 };
    }),
  );
}

/** No step comes in between. */
const lockedBooks = (booksId: BooksId) =>
  sql`select from books where id = ${booksId} for no key update`;

async function rebuildIn(tx: Tx, books: z.infer<typeof NamedRow>): Promise<Outcome> {
  await tx.execute(lockedBooks(books.id));
  const { lines, differing } = await rebuildHabits(tx, books.id);
  const open = await openStems(tx, books.id);
  await queueRenewal(tx, books.id, open);
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
