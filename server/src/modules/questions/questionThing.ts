import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { missingByStanding, type ThingHandler } from '../steps/things.ts';
import { setQuestionState } from './askLines.ts';

const StandingRow = z.object({ id: z.string(), state: z.string() });

const standing: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
  const rows = await rowsOf(
    tx,
    StandingRow,
    sql`select id, state from questions
        where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[]) for update`,
  );
  return new Map(rows.map(({ id, state }) => [id, { state }]));
};

/** Questions: withdrawn where asking is undone, open again where only the answer is. */
export const questionThing: ThingHandler = {
  standing,
  missing: missingByStanding('question', standing),
  put: async (command, turns) => {
    for (const { thingId, after } of turns) {
      await setQuestionState(command, thingId, String(after?.state));
    }
  },
};
