import { fail } from '@zubrell/core/errors';
import type { DecisionId } from '@zubrell/core/ids';
import { ownKinds } from '@zubrell/core/ledger/entries';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { execute, rowsOf, together } from '../../db/database.ts';
import { IdRow, idRow } from '../../db/rows.ts';
import { decisionNeed, documentsInTheWay } from '../decisions/documentsInTheWay.ts';
import { setLineDecisions } from '../decisions/setLineDecisions.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import type { StepItem } from '../steps/recordStep.ts';
import {
  type InTheWay,
  isHere,
  type ThingHandler,
  type Things,
  type Turn,
} from '../steps/things.ts';
import { codingToDraft } from './codingToDraft.ts';
import { markHeld } from './markHeld.ts';

const StandingRow = z.object({ id: z.string(), decisionId: idRow<DecisionId>().nullable() });

/** How what was decided about lines is taken back and comes again. */
export const lineThing: ThingHandler = {
  standing: async ({ tx, booksId }, ids) => {
    const rows = await rowsOf(
      tx,
      StandingRow,
      sql`select l.id, dl.decision_id as "decisionId" from lines l
          left join decision_lines dl
            on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
          where l.books_id = ${booksId} and l.id = any(${sql.param(ids)}::uuid[])
          for update of l`,
    );
    return new Map(rows.map(({ id, decisionId }) => [id, { decisionId }]));
  },
  // That a line is decided is never needed as such: what rests on a decision names the decision.
  missing: async () => [],
  inTheWay: async (command, turns, all) => {
    const { arriving, leaving } = decisionsOf(turns);
    const found = await together(
      linesNotHere(command, turns, all),
      legsInTheWay(command, arriving, leaving, all),
      documentsInTheWay(command, arriving, leaving, all),
      movedInTheWay(command, leaving, all),
      returnsInTheWay(command, leaving),
    );
    return {
      taken: found.flatMap(({ taken }) => taken),
      absent: found.flatMap(({ absent }) => absent),
    };
  },
  put: putLines,
};

/** Decisions themselves: what rests on one names it. */
export const decisionThing: Things['decision'] = {
  table: 'decisions',
  missing: async ({ tx, booksId }, ids) => {
    const rows = await rowsOf(
      tx,
      IdRow,
      sql`select wanted.id from unnest(${sql.param(ids)}::uuid[]) as wanted (id)
          where not exists (select from decision_lines x
              where x.books_id = ${booksId} and x.decision_id = wanted.id and x.is_live)
            and not exists (select from allocations a
              where a.books_id = ${booksId} and a.decision_id = wanted.id and a.is_live)
            and not exists (select from decision_legs x
              where x.books_id = ${booksId} and x.decision_id = wanted.id and x.is_live)`,
    );
    return rows.map(({ id }) => ({ thing: 'decision', thingId: id }));
  },
  linesOf: (booksId, decisionId) =>
    sql`select x.line_id as id from decision_lines x
        where x.books_id = ${booksId} and x.decision_id = ${decisionId}`,
};

type Found = Required<InTheWay>;

const idOf = (state: Turn['before']) => {
  const id = state?.decisionId;
  return typeof id === 'string' ? id : null;
};

function decisionsOf(turns: readonly Turn[]) {
  const of = (side: 'before' | 'after') => [
    ...new Set(turns.flatMap((turn) => idOf(turn[side]) ?? [])),
  ];
  return { arriving: of('after'), leaving: of('before') };
}

/** Lines have to be here to be decided about. */
async function linesNotHere(
  command: BooksCommand,
  turns: readonly Turn[],
  all: readonly StepItem[],
): Promise<Found> {
  const { tx, booksId, things } = command;
  const decided = turns.filter(({ after }) => idOf(after) !== null).map(({ thingId }) => thingId);
  const missing = await things.lineHere.missing(command, decided);
  if (missing.length === 0) return { taken: [], absent: [] };
  const coming = all.filter(({ before, after }) => isHere(after) && !isHere(before));
  const batches = coming.filter(({ thing }) => thing === 'batch').map(({ thingId }) => thingId);
  const brought = await rowsOf(
    tx,
    IdRow,
    sql`select line_id as id from sightings where books_id = ${booksId}
          and batch_id = any(${sql.param(batches)}::uuid[])
          and line_id = any(${sql.param(decided)}::uuid[])`,
  );
  const comes = new Set([
    ...coming.filter(({ thing }) => thing === 'lineHere').map(({ thingId }) => thingId),
    ...brought.map(({ id }) => id),
  ]);
  const gone = decided.filter((id) => !comes.has(id));
  return { taken: [], absent: await things.lineHere.missing(command, gone) };
}

/** Bank legs that another line took, and entries that are void. */
async function legsInTheWay(
  { tx, booksId }: BooksCommand,
  arriving: readonly string[],
  leaving: readonly string[],
  all: readonly StepItem[],
): Promise<Found> {
  if (arriving.length === 0) return { taken: [], absent: [] };
  const takenThere = rowsOf(
    tx,
    IdRow,
    sql`select distinct other.decision_id as id from decision_legs mine
        join decision_legs other on other.books_id = mine.books_id and other.leg_id = mine.leg_id
          and other.is_live and other.decision_id <> mine.decision_id
        where mine.books_id = ${booksId} and mine.decision_id = any(${sql.param(arriving)}::uuid[])
          and other.decision_id <> all(${sql.param(leaving)}::uuid[])`,
  );
  const coming = all
    .filter(({ thing, after }) => thing === 'entry' && isHere(after))
    .map(({ thingId }) => thingId);
  const voidedThere = rowsOf(
    tx,
    IdRow,
    sql`select distinct e.id from decision_legs mine
        join decisions d on d.books_id = mine.books_id and d.id = mine.decision_id
        join legs g on g.books_id = mine.books_id and g.id = mine.leg_id
        join entries e on e.books_id = g.books_id and e.id = g.entry_id
        where mine.books_id = ${booksId} and mine.decision_id = any(${sql.param(arriving)}::uuid[])
          and e.is_void and e.id <> all(${sql.param(coming)}::uuid[])
          and not (e.step = d.step and e.kind = any(${sql.param(ownKinds)}::text[]))`,
  );
  const [taken, voided] = await together(takenThere, voidedThere);
  return {
    taken: taken.map(({ id }) => decisionNeed(id)),
    absent: voided.map(({ id }) => ({ thing: 'entry', thingId: id })),
  };
}

/** Lines that were moved to another bank account are there, so the one here stays excluded. */
async function movedInTheWay(
  { tx, booksId }: BooksCommand,
  leaving: readonly string[],
  all: readonly StepItem[],
): Promise<Found> {
  const going = all.filter(({ thing, after }) => thing === 'lineHere' && !isHere(after));
  const copies = await rowsOf(
    tx,
    IdRow,
    sql`select copy.id from decisions d
        join decision_lines dl on dl.books_id = d.books_id and dl.decision_id = d.id
        join lines copy on copy.books_id = d.books_id and copy.moved_from = dl.line_id and copy.is_own
        where d.books_id = ${booksId} and d.reason = 'otherAccount'
          and d.id = any(${sql.param(leaving)}::uuid[])
          and copy.id <> all(${sql.param(going.map(({ thingId }) => thingId))}::uuid[])`,
  );
  return { taken: copies.map(({ id }) => ({ thing: 'lineHere', thingId: id })), absent: [] };
}

/** Payments that came back rest on the payments that they were. */
async function returnsInTheWay(
  { tx, booksId }: BooksCommand,
  leaving: readonly string[],
): Promise<Found> {
  if (leaving.length === 0) return { taken: [], absent: [] };
  const returns = await rowsOf(
    tx,
    IdRow,
    sql`select distinct back.decision_id as id from allocations paid
        join allocations back on back.books_id = paid.books_id and back.is_live
          and back.document_id = paid.document_id and sign(back.amount) <> sign(paid.amount)
        join decisions d on d.books_id = back.books_id and d.id = back.decision_id
        join step_needs n on n.books_id = d.books_id and n.step_no = d.step
          and n.thing = 'decision' and n.thing_id = paid.decision_id
        where paid.books_id = ${booksId}
          and paid.decision_id = any(${sql.param(leaving)}::uuid[])
          and back.decision_id <> all(${sql.param(leaving)}::uuid[])`,
  );
  return { taken: returns.map(({ id }) => decisionNeed(id)), absent: [] };
}

const TurnedRow = z.object({ stem: z.string(), amount: z.number() });

/** Lines given back get their coding as a draft; lines decided again lose it. */
async function putLines(command: BooksCommand, turns: readonly Turn[]): Promise<void> {
  const { tx, booksId, actor, clock } = command;
  const changes = turns.map(({ thingId, before, after }) => ({
    lineId: thingId,
    from: idOf(before),
    to: idOf(after),
  }));
  const moved = await setLineDecisions(command, changes);
  if (moved.length > 0) fail('INTERNAL');
  const { arriving, leaving } = decisionsOf(turns);
  const decided = changes.filter(({ to }) => to !== null).map(({ lineId }) => lineId);
  const opened = changes.filter(({ to }) => to === null).map(({ lineId }) => lineId);
  const ids = sql.param(changes.map(({ lineId }) => lineId));
  const [turned, targetIds] = await together(
    rowsOf(
      tx,
      TurnedRow,
      sql`select distinct stem, amount from lines
          where books_id = ${booksId} and id = any(${ids}::uuid[])`,
    ),
    pairedWith(command, [...arriving, ...leaving]),
    command.follow.decisionsEnded(command, leaving),
    execute(
      tx,
      sql`delete from drafts
          where books_id = ${booksId} and line_id = any(${sql.param(decided)}::uuid[])`,
    ),
    codingToDraft({ tx, booksId }, leaving, actor.userId, clock.now()),
    // What is opened in a closed period is late, as if it came now.
    opened.length > 0 ? markHeld(tx, booksId, null, opened) : Promise.resolve(),
  );
  await command.follow.linesDecided(command, {
    stems: [...new Set(turned.map(({ stem }) => stem))],
    amounts: turned.map(({ amount }) => amount),
    targetIds,
  });
}

/** The bank legs and documents that lines were paired with by these decisions. */
async function pairedWith(
  { tx, booksId }: BooksCommand,
  decisionIds: readonly DecisionId[],
): Promise<string[]> {
  const ids = sql.param(decisionIds);
  const rows = await rowsOf(
    tx,
    IdRow,
    sql`select x.leg_id as id from decision_legs x
        join decisions d on d.books_id = x.books_id and d.id = x.decision_id and d.kind = 'paired'
        where x.books_id = ${booksId} and x.decision_id = any(${ids}::uuid[])
        union
        select a.document_id from allocations a
        where a.books_id = ${booksId} and a.decision_id = any(${ids}::uuid[])`,
  );
  return rows.map(({ id }) => id);
}
