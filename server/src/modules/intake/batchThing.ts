import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { IdRow } from '../../db/rows.ts';
import { accountsMissing, linesOnlyIn, restingOn, setPresence } from '../lines/lineHereThing.ts';
import { isHere, missingByStanding, type ThingHandler } from '../steps/things.ts';

const StandingRow = z.object({ id: z.string(), isKept: z.boolean() });

const standing: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
  const rows = await rowsOf(
    tx,
    StandingRow,
    sql`select id, status = 'kept' as "isKept" from batches
        where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[]) for update`,
  );
  return new Map(rows.map(({ id, isKept }) => [id, isKept ? { isKept } : null]));
};

/** Batches: with one come and go the lines that nothing else has here. */
export const batchThing: ThingHandler = {
  standing,
  missing: missingByStanding('batch', standing),
  inTheWay: async (command, turns, all) => {
    const going = turns.filter(({ after }) => !isHere(after)).map(({ thingId }) => thingId);
    const staying = all.filter(({ thing, after }) => thing === 'lineHere' && isHere(after));
    const lines = sql`${linesOnlyIn(command.booksId, going)}
      and l.id <> all(${sql.param(staying.map(({ thingId }) => thingId))}::uuid[])`;
    const coming = turns.filter(({ after }) => isHere(after)).map(({ thingId }) => thingId);
    const accounts = await rowsOf(
      command.tx,
      IdRow,
      sql`select distinct bank_account_id as id from batches
          where books_id = ${command.booksId} and id = any(${sql.param(coming)}::uuid[])`,
    );
    return {
      taken: await restingOn(command, lines, all),
      absent: await accountsMissing(command, accounts, all),
    };
  },
  put: async (command, turns) => {
    const { tx, booksId } = command;
    const ids = sql.param(turns.map(({ thingId }) => thingId));
    await tx.execute(
      sql`update batches b set status = put.status
          from unnest(${ids}::uuid[],
            ${sql.param(turns.map(({ after }) => (isHere(after) ? 'kept' : 'takenBack')))}::text[])
            as put (id, status)
          where b.books_id = ${booksId} and b.id = put.id`,
    );
    const seen = await rowsOf(
      tx,
      IdRow,
      sql`select distinct line_id as id from sightings
          where books_id = ${booksId} and batch_id = any(${ids}::uuid[])`,
    );
    await setPresence(
      command,
      seen.map(({ id }) => id),
    );
  },
  linesOf: linesOnlyIn,
};
