import { closingStates } from '@zubrell/core/closing/months';
import type { UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { needsLeave } from '../books/needsLeave.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { turnedState } from '../steps/putItems.ts';
import { missingByStanding, type ThingHandler } from '../steps/things.ts';

/** How far a month is, as steps keep it. */
export const ClosingThingState = z.object({
  month: z.string(),
  state: z.enum(closingStates),
  note: z.string(),
  preparedBy: idRow<UserId>().nullable(),
  preparedAt: z.string().nullable(),
  reviewedBy: idRow<UserId>().nullable(),
  reviewedAt: z.string().nullable(),
  closedBy: idRow<UserId>().nullable(),
  closedAt: z.string().nullable(),
});
export type ClosingThingState = z.infer<typeof ClosingThingState>;

const StandingRow = z.object({ id: z.string(), isHere: z.boolean(), state: ClosingThingState });

/** How the closing of months stands, by id. @param by which ones, as a condition on `c` */
export function standingClosings(
  { tx, booksId }: Pick<BooksCommand, 'tx' | 'booksId'>,
  by: ReturnType<typeof sql>,
) {
  return rowsOf(
    tx,
    StandingRow,
    sql`select c.id, c.is_here as "isHere", jsonb_build_object(
          'month', c.month, 'state', c.state, 'note', c.note,
          'preparedBy', c.prepared_by, 'preparedAt', to_json(c.prepared_at) #>> '{}',
          'reviewedBy', c.reviewed_by, 'reviewedAt', to_json(c.reviewed_at) #>> '{}',
          'closedBy', c.closed_by, 'closedAt', to_json(c.closed_at) #>> '{}') as state
        from closings c where c.books_id = ${booksId} and ${by} for update`,
  );
}

const standing: ThingHandler['standing'] = async (command, ids) => {
  const rows = await standingClosings(command, sql`c.id = any(${sql.param(ids)}::uuid[])`);
  return new Map(rows.map((row) => [row.id, row.isHere ? row.state : null]));
};

/** How far the closing of months is. */
export const closingThing: ThingHandler = {
  standing,
  missing: missingByStanding('closing', standing),
  put: async (command, turns) => {
    const now = await standing(
      command,
      turns.map(({ thingId }) => thingId),
    );
    for (const turn of turns) {
      const was = now.get(turn.thingId) ?? null;
      const next = turnedState(was, turn);
      const [before, after] = [was, next].map((state) =>
        state === null ? null : ClosingThingState.parse(state),
      );
      const wasClosed = before?.state === 'closed';
      const isClosed = after?.state === 'closed';
      if (wasClosed !== isClosed) await needsLeave(command, isClosed ? 'close' : 'reopen');
      await putClosing(command, turn.thingId, after ?? null);
    }
  },
};

/** Writes how far a month is; null where nobody has done anything about it any more. */
export async function putClosing(
  { tx, booksId }: BooksCommand,
  id: string,
  state: ClosingThingState | null,
): Promise<void> {
  if (state === null) {
    await tx.execute(
      sql`update closings set is_here = false where books_id = ${booksId} and id = ${id}`,
    );
    return;
  }
  await tx.execute(
    sql`insert into closings (books_id, id, month, state, note, prepared_by, prepared_at, reviewed_by,
          reviewed_at, closed_by, closed_at)
        values (${booksId}, ${id}, ${state.month}, ${state.state}, ${state.note}, ${state.preparedBy},
          ${state.preparedAt}, ${state.reviewedBy}, ${state.reviewedAt}, ${state.closedBy},
          ${state.closedAt})
        on conflict (books_id, month) do update set is_here = true, state = excluded.state,
          note = excluded.note, prepared_by = excluded.prepared_by, prepared_at = excluded.prepared_at,
          reviewed_by = excluded.reviewed_by, reviewed_at = excluded.reviewed_at,
          closed_by = excluded.closed_by, closed_at = excluded.closed_at`,
  );
}

const ReviewRow = z.object({ id: z.string(), userId: idRow<UserId>(), at: z.string() });

const reviewStanding: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
  const rows = await rowsOf(
    tx,
    ReviewRow,
    sql`select line_id as id, user_id as "userId", to_json(at) #>> '{}' as at from line_reviews
        where books_id = ${booksId} and line_id = any(${sql.param(ids)}::uuid[])`,
  );
  return new Map(rows.map(({ id, userId, at }) => [id, { userId, at }]));
};

const ReviewState = z.object({ userId: z.string(), at: z.string() });

/** That a reviewer has looked at lines. */
export const lineReviewThing: ThingHandler = {
  standing: reviewStanding,
  missing: missingByStanding('lineReview', reviewStanding),
  put: async ({ tx, booksId }, turns) => {
    for (const { thingId, after } of turns) {
      if (after === null) {
        await tx.execute(
          sql`delete from line_reviews where books_id = ${booksId} and line_id = ${thingId}`,
        );
        continue;
      }
      const { userId, at } = ReviewState.parse(after);
      await tx.execute(
        sql`insert into line_reviews (books_id, line_id, user_id, at)
            values (${booksId}, ${thingId}, ${userId}, ${at}) on conflict do nothing`,
      );
    }
  },
};
