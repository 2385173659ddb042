import type { BatchId, BooksId, LineId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { IdRow, idRow, StemRow } from '../../db/rows.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import type { Need, StepItem } from '../steps/recordStep.ts';
import { isHere, missingByStanding, type ThingHandler } from '../steps/things.ts';
import { markHeld } from './markHeld.ts';

/** Whether a kept batch, other than those given, has seen a line. @param line its alias */
export const seenBesides = (batchIds: readonly BatchId[], line: 'l' | 'o' = 'l') => sql`exists (
  select from sightings seen
  join batches b on b.books_id = seen.books_id and b.id = seen.batch_id and b.status = 'kept'
  where seen.books_id = ${sql.raw(line)}.books_id and seen.line_id = ${sql.raw(line)}.id
    and seen.batch_id <> all(${sql.param(batchIds)}::uuid[]))`;

/** Selects as `id` the lines that only these batches have here. */
export function linesOnlyIn(booksId: BooksId, batchIds: readonly BatchId[]) {
  return sql`select l.id from lines l
    where l.books_id = ${booksId} and l.is_here and not l.is_own
      and l.id in (select line_id from sightings
        where books_id = ${booksId} and batch_id = any(${sql.param(batchIds)}::uuid[]))
      and not ${seenBesides(batchIds)}`;
}

const StandingRow = z.object({ id: z.string(), isOwn: z.boolean() });

const MissingRow = z.object({ id: z.string(), batchId: idRow<BatchId>().nullable() });

/** That lines are here by themselves: written by hand, moved here, or kept when their batch was taken back. */
export const lineHereThing: ThingHandler = {
  standing: async ({ tx, booksId }, ids) => {
    const rows = await rowsOf(
      tx,
      StandingRow,
      sql`select id, is_own as "isOwn" from lines
          where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[]) for update`,
    );
    return new Map(rows.map(({ id, isOwn }) => [id, { isHere: isOwn }]));
  },
  missing: async ({ tx, booksId }, ids) => {
    const rows = await rowsOf(
      tx,
      MissingRow,
      sql`select l.id, g.batch_id as "batchId" from lines l
          left join lateral (
            select g.batch_id from sightings g
            join batches b on b.books_id = g.books_id and b.id = g.batch_id
            where g.books_id = l.books_id and g.line_id = l.id
            order by b.created_at limit 1) g on true
          where l.books_id = ${booksId} and l.id = any(${sql.param(ids)}::uuid[]) and not l.is_here`,
    );
    return rows.map(
      ({ id, batchId }): Need =>
        batchId === null
          ? { thing: 'lineHere', thingId: id }
          : { thing: 'batch', thingId: batchId },
    );
  },
  inTheWay: async (command, turns, all) => {
    const going = turns.filter(({ after }) => !isHere(after)).map(({ thingId }) => thingId);
    const batches = all.filter(({ thing }) => thing === 'batch');
    const idsOf = (areComing: boolean) =>
      batches.filter(({ after }) => isHere(after) === areComing).map(({ thingId }) => thingId);
    const lines = sql`select l.id from lines l
      where l.books_id = ${command.booksId} and l.id = any(${sql.param(going)}::uuid[])
        and not ${seenBesides(idsOf(false))}
        and not exists (select from sightings g
          where g.books_id = l.books_id and g.line_id = l.id
            and g.batch_id = any(${sql.param(idsOf(true))}::uuid[]))`;
    const coming = turns.filter(({ after }) => isHere(after)).map(({ thingId }) => thingId);
    const accounts = await rowsOf(
      command.tx,
      IdRow,
      sql`select distinct bank_account_id as id from lines
          where books_id = ${command.booksId} and id = any(${sql.param(coming)}::uuid[])`,
    );
    return {
      taken: await restingOn(command, lines, all),
      absent: await accountsMissing(command, accounts, all),
    };
  },
  put: async (command, turns) => {
    const { tx, booksId, step } = command;
    const lines = await rowsOf(
      tx,
      IdRow,
      sql`update lines l set is_own = put.is_own, last_step = ${step}
          from unnest(
            ${sql.param(turns.map(({ thingId }) => thingId))}::uuid[],
            ${sql.param(turns.map(({ after }) => isHere(after)))}::boolean[]) as put (id, is_own)
          where l.books_id = ${booksId} and l.id = put.id returning l.id`,
    );
    await setPresence(
      command,
      lines.map(({ id }) => id),
    );
  },
  linesOf: (booksId, ids) =>
    sql`select l.id from lines l
        where l.books_id = ${booksId} and l.id = any(${sql.param(ids)}::uuid[]) and not ${seenBesides([])}`,
};

/** The bank accounts that lines would come into, and that are not there nor come with them. */
export async function accountsMissing(
  command: BooksCommand,
  accounts: readonly { readonly id: string }[],
  all: readonly StepItem[],
): Promise<readonly Need[]> {
  const coming = all.filter(({ thing, after }) => thing === 'bankAccount' && isHere(after));
  const wanted = accounts.filter(({ id }) => !coming.some(({ thingId }) => thingId === id));
  return command.things.bankAccount.missing(
    command,
    wanted.map(({ id }) => id),
  );
}

/** What rests on lines that would go: decisions about them, and copies of which they are the original. */
export async function restingOn(
  { tx, booksId }: BooksCommand,
  lines: ReturnType<typeof sql>,
  all: Parameters<NonNullable<ThingHandler['inTheWay']>>[2],
): Promise<Need[]> {
  const leaving = all.filter(({ thing }) => thing === 'line').map(({ thingId }) => thingId);
  const rows = await rowsOf(
    tx,
    IdRow,
    sql`with going as (${lines})
        select dl.decision_id as id from going
        join decision_lines dl on dl.books_id = ${booksId} and dl.line_id = going.id and dl.is_live
        where dl.line_id <> all(${sql.param(leaving)}::uuid[])
        union
        select d.id from going
        join decisions d on d.books_id = ${booksId} and d.copy_of = going.id
        join decision_lines dl on dl.books_id = d.books_id and dl.decision_id = d.id and dl.is_live
        where dl.line_id <> all(${sql.param(leaving)}::uuid[])`,
  );
  return rows.map(({ id }) => ({ thing: 'decision', thingId: id }));
}

/** Lets lines be here as they are by themselves or by a kept batch, and renews what is proposed for them. */
export async function setPresence(
  command: BooksCommand,
  lineIds: readonly LineId[],
): Promise<void> {
  const { tx, booksId, step } = command;
  const rows = await rowsOf(
    tx,
    StemRow,
    sql`update lines l set is_here = not l.is_here, last_step = ${step}
        where l.books_id = ${booksId} and l.id = any(${sql.param(lineIds)}::uuid[])
          and l.is_here <> (l.is_own or ${seenBesides([])})
        returning l.stem`,
  );
  if (rows.length > 0) await markHeld(tx, booksId);
  await command.follow.linesMoved(
    command,
    rows.map(({ stem }) => stem),
  );
}

const TwiceStandingRow = z.object({ id: z.string(), twiceOf: z.string().nullable() });

/** The line that a line may be a second copy of. */
const twiceStanding: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
  const rows = await rowsOf(
    tx,
    TwiceStandingRow,
    sql`select id, twice_of as "twiceOf" from lines
        where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[]) for update`,
  );
  return new Map(rows.map(({ id, twiceOf }) => [id, { twiceOf }]));
};

/** How it is said that a line is a copy, or none. */
export const twiceThing: ThingHandler = {
  standing: twiceStanding,
  missing: missingByStanding('twice', twiceStanding),
  inTheWay: async (command, turns) => ({
    taken: [],
    absent: await command.things.lineHere.missing(
      command,
      turns.map(({ thingId }) => thingId),
    ),
  }),
  put: async (command, turns) => {
    const { tx, booksId, step } = command;
    const rows = await rowsOf(
      tx,
      StemRow,
      sql`update lines l set twice_of = put.twice_of, last_step = ${step}
          from unnest(
            ${sql.param(turns.map(({ thingId }) => thingId))}::uuid[],
            ${sql.param(turns.map(({ after }) => after?.twiceOf ?? null))}::uuid[]) as put (id, twice_of)
          where l.books_id = ${booksId} and l.id = put.id returning l.stem`,
    );
    await command.follow.linesMoved(
      command,
      rows.map(({ stem }) => stem),
    );
  },
};
