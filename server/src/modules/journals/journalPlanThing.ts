import { GivenJournalPlan } from '@zubrell/contract/journals';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { turnedState } from '../steps/putItems.ts';
import { missingByStanding, type ThingHandler } from '../steps/things.ts';

/** A recurring journal as steps keep it. */
export const JournalPlanState = GivenJournalPlan.extend({ skipped: z.array(z.string()) });
export type JournalPlanState = z.infer<typeof JournalPlanState>;

const StandingRow = z.object({ id: z.string(), state: JournalPlanState });

/** How recurring journals stand, by id; those that were removed are left out. */
export async function standingPlans(
  { tx, booksId }: Pick<BooksCommand, 'tx' | 'booksId'>,
  ids: readonly string[],
): Promise<ReadonlyMap<string, JournalPlanState>> {
  const rows = await rowsOf(
    tx,
    StandingRow,
    sql`select p.id, jsonb_build_object('name', p.name, 'payeeId', p.payee_id, 'note', p.note,
          'legs', p.legs, 'rhythm', p.rhythm, 'startDate', p.start_date, 'endDate', p.end_date,
          'isReversing', p.is_reversing, 'skipped', p.skipped) as state
        from journal_plans p
        where p.books_id = ${booksId} and p.is_here and p.id = any(${sql.param(ids)}::uuid[])
        for update`,
  );
  return new Map(rows.map(({ id, state }) => [id, state]));
}

/** Journals that recur. */
export const journalPlanThing: ThingHandler = {
  standing: standingPlans,
  missing: missingByStanding('journalPlan', standingPlans),
  put: async (command, turns) => {
    const now = await standingPlans(
      command,
      turns.map(({ thingId }) => thingId),
    );
    for (const turn of turns) {
      const next = turnedState(now.get(turn.thingId) ?? null, turn);
      await putPlan(command, turn.thingId, next === null ? null : JournalPlanState.parse(next));
    }
  },
};

/** Writes a recurring journal; null where it is removed. */
export async function putPlan(
  { tx, booksId }: BooksCommand,
  id: string,
  state: JournalPlanState | null,
): Promise<void> {
  if (state === null) {
    await tx.execute(
      sql`update journal_plans set is_here = false where books_id = ${booksId} and id = ${id}`,
    );
    return;
  }
  const { name, payeeId, note, legs, rhythm, startDate, endDate, isReversing, skipped } = state;
  await tx.execute(
    sql`insert into journal_plans (books_id, id, name, payee_id, note, legs, rhythm, start_date, end_date,
          is_reversing, skipped)
        values (${booksId}, ${id}, ${name}, ${payeeId}, ${note}, ${JSON.stringify(legs)}::jsonb, ${rhythm},
          ${startDate}, ${endDate}, ${isReversing}, ${JSON.stringify(skipped)}::jsonb)
        on conflict (books_id, id) do update set is_here = true, name = excluded.name,
          payee_id = excluded.payee_id, note = excluded.note, legs = excluded.legs,
          rhythm = excluded.rhythm, start_date = excluded.start_date, end_date = excluded.end_date,
          is_reversing = excluded.is_reversing, skipped = excluded.skipped`,
  );
}
