import type { StepThing } from '@zubrell/core/steps/stepThings';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import type { BooksCommand } from './booksCommand.ts';
import { missingByStanding, type ThingHandler } from './things.ts';

const LiveThingRow = z.object({ id: z.string(), isLive: z.boolean() });

/**
 * The handler of things that only hold or don't, by `is_live` in their table.
 *
 * @param settle sees to what follows for things that were switched
 */
export function liveThing(
  thing: StepThing,
  table: 'aliases' | 'dismissals' | 'habit_marks',
  settle: (command: BooksCommand, ids: readonly string[]) => Promise<void>,
): ThingHandler {
  const standing: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
    const rows = await rowsOf(
      tx,
      LiveThingRow,
      sql`select id, is_live as "isLive" from ${sql.identifier(table)}
          where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[]) for update`,
    );
    return new Map(rows.map(({ id, isLive }) => [id, { isLive }]));
  };
  return {
    standing,
    missing: missingByStanding(thing, standing),
    put: async (command, turns) => {
      const { tx, booksId } = command;
      await tx.execute(
        sql`update ${sql.identifier(table)} t set is_live = put.is_live
            from unnest(
              ${sql.param(turns.map(({ thingId }) => thingId))}::uuid[],
              ${sql.param(turns.map(({ after }) => after?.isLive === true))}::boolean[])
              as put (id, is_live)
            where t.books_id = ${booksId} and t.id = put.id`,
      );
      await settle(
        command,
        turns.map(({ thingId }) => thingId),
      );
    },
  };
}
