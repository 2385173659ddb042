import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { IdRow } from '../../db/rows.ts';
import { needsLeave } from '../books/needsLeave.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import type { Need } from '../steps/recordStep.ts';
import { isHere, missingByStanding, type ThingHandler, type Turn } from '../steps/things.ts';

const StandingRow = z.object({ id: z.string(), from: z.string(), to: z.string() });

const standing: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
  const rows = await rowsOf(
    tx,
    StandingRow,
    sql`select id, from_date as "from", to_date as "to" from tax_returns
        where books_id = ${booksId} and is_here and id = any(${sql.param(ids)}::uuid[])`,
  );
  return new Map(rows.map(({ id, from, to }) => [id, { from, to }]));
};

/**
 * Returns that were filed. Each rests on those before it: one goes only when none is later, and comes back only where
 * none has taken its period.
 */
export const taxReturnThing: ThingHandler = {
  standing,
  missing: missingByStanding('taxReturn', standing),
  inTheWay: async (command, turns) => ({ taken: await laterReturns(command, turns) }),
  put: async (command, turns) => {
    const { tx, booksId } = command;
    for (const { thingId, after } of turns) {
      await needsLeave(command, isHere(after) ? 'close' : 'reopen');
      await tx.execute(
        sql`update tax_returns set is_here = ${isHere(after)}
            where books_id = ${booksId} and id = ${thingId}`,
      );
    }
  },
};

async function laterReturns(
  { tx, booksId }: BooksCommand,
  turns: readonly Turn[],
): Promise<Need[]> {
  const ids = turns.map(({ thingId }) => thingId);
  const rows = await rowsOf(
    tx,
    IdRow,
    sql`select later.id from tax_returns later
        join tax_returns own on own.books_id = later.books_id and own.id = any(${sql.param(ids)}::uuid[])
        where later.books_id = ${booksId} and later.is_here and later.id <> all(${sql.param(ids)}::uuid[])
          and later.to_date >= own.from_date`,
  );
  return rows.map(({ id }) => ({ thing: 'taxReturn', thingId: id }));
}
