import { countedKinds } from '@zubrell/core/closing/causes';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { StatementId, UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { needsLeave } from '../books/needsLeave.ts';
import { stemsPaying } from '../proposals/cardDues.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { turnedState } from '../steps/putItems.ts';
import type { Need } from '../steps/recordStep.ts';
import { isHere, missingByStanding, type ThingHandler } from '../steps/things.ts';
import { SaidStatement } from './accountFacts.ts';

/** A statement as steps keep it. */
export const StatementState = SaidStatement.omit({ id: true }).extend({
  agreedBy: idRow<UserId>().nullable(),
});
export type StatementState = z.infer<typeof StatementState>;

const StandingRow = z.object({ id: z.string(), isHere: z.boolean(), state: StatementState });

const standing: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
  const rows = await rowsOf(
    tx,
    StandingRow,
    sql`select s.id, s.is_here as "isHere", jsonb_build_object(
          'bankAccountId', s.bank_account_id, 'from', s.from_date, 'to', s.to_date,
          'closing', s.closing, 'dismissed', s.dismissed, 'agreedStep', s.agreed_step,
          'agreedOpening', s.agreed_opening, 'agreedClosing', s.agreed_closing,
          'agreedBy', s.agreed_by, 'agreedAt', to_json(s.agreed_at) #>> '{}',
          'lastAgreedStep', s.last_agreed_step) as state
        from statements s
        where s.books_id = ${booksId} and s.id = any(${sql.param(ids)}::uuid[]) for update`,
  );
  return new Map(rows.map((row) => [row.id, row.isHere ? row.state : null]));
};

/** What somebody said of statements, and that they are agreed. */
export const statementThing: ThingHandler = {
  standing,
  missing: missingByStanding('statement', standing),
  inTheWay: async (command, turns) => {
    const absent = await command.things.bankAccount.missing(
      command,
      turns.flatMap(({ after }) => (after ? [StatementState.parse(after).bankAccountId] : [])),
    );
    return { taken: await agreedAfter(command, turns), absent };
  },
  put: async (command, turns) => {
    const now = await standing(
      command,
      turns.map(({ thingId }) => thingId),
    );
    for (const turn of turns) {
      const { thingId } = turn;
      const was = now.get(thingId) ?? null;
      const next = turnedState(was, turn);
      await putStatement(
        command,
        thingId,
        was === null ? null : StatementState.parse(was),
        next === null ? null : StatementState.parse(next),
      );
    }
  },
};

/** Statements that are agreed and follow one that would not be agreed any more. */
function agreedAfter(
  { tx, booksId }: BooksCommand,
  turns: Parameters<NonNullable<ThingHandler['inTheWay']>>[1],
): Promise<Need[]> {
  const opening = turns.filter(
    ({ before, after }) => before?.agreedStep != null && after?.agreedStep == null,
  );
  return rowsOf(
    tx,
    z.object({ thing: z.literal('statement'), thingId: z.string() }),
    sql`select 'statement' as thing, later.id as "thingId" from statements s
        join statements later on later.books_id = s.books_id and later.is_here
          and later.bank_account_id = s.bank_account_id and later.to_date > s.to_date
          and later.agreed_step is not null
        where s.books_id = ${booksId}
          and s.id = any(${sql.param(opening.map(({ thingId }) => thingId))}::uuid[])
          and later.id <> all(${sql.param(turns.map(({ thingId }) => thingId))}::uuid[])`,
  );
}

/** The same statement before it was agreed, or opened again. */
export function notAgreed(state: StatementState): StatementState {
  return {
    ...state,
    agreedStep: null,
    agreedOpening: null,
    agreedClosing: null,
    agreedBy: null,
    agreedAt: null,
  };
}

/**
 * Puts a statement from one state into another. Where it is agreed, or isn't any more, its account is closed up to
 * there, or opened.
 *
 * @throws {ZubrellError} STATEMENT_CHANGED where it would be agreed again and no longer is made of what it was;
 *   LEAVE_NEEDED
 */
export async function putStatement(
  command: BooksCommand,
  id: StatementId,
  before: StatementState | null,
  after: StatementState | null,
): Promise<void> {
  const { tx, booksId } = command;
  const state = after ?? (before && notAgreed(before));
  if (state === null) return;
  await tx.execute(
    sql`insert into statements (books_id, id, bank_account_id, from_date, to_date, closing, dismissed,
          agreed_step, agreed_opening, agreed_closing, agreed_by, agreed_at, last_agreed_step, is_here)
        values (${booksId}, ${id}, ${state.bankAccountId}, ${state.from}, ${state.to},
          ${state.closing}, ${JSON.stringify(state.dismissed)}::jsonb, ${state.agreedStep},
          ${state.agreedOpening}, ${state.agreedClosing}, ${state.agreedBy}, ${state.agreedAt},
          ${state.lastAgreedStep}, ${after !== null})
        on conflict (books_id, id) do update set from_date = excluded.from_date,
          to_date = excluded.to_date, closing = excluded.closing, dismissed = excluded.dismissed,
          agreed_step = excluded.agreed_step, agreed_opening = excluded.agreed_opening,
          agreed_closing = excluded.agreed_closing, agreed_by = excluded.agreed_by,
          agreed_at = excluded.agreed_at, last_agreed_step = excluded.last_agreed_step,
          is_here = excluded.is_here`,
  );
  if ((before?.closing ?? null) !== (after?.closing ?? null)) {
    await command.follow.linesTaught(command, await stemsPaying(tx, booksId, state.bankAccountId));
  }
  const was = before?.agreedStep ?? null;
  const is = after?.agreedStep ?? null;
  if (was === is) return;
  await needsLeave(command, is === null ? 'reopen' : 'close');
  if (is !== null && is !== command.step) await checkParts(command, id, state.to, is);
  await tx.execute(
    sql`update bank_accounts b set closed_to = (
          select max(s.to_date) from statements s
          where s.books_id = b.books_id and s.bank_account_id = b.id and s.is_here
            and s.agreed_step is not null)
        where b.books_id = ${booksId} and b.id = ${state.bankAccountId}`,
  );
  await command.follow.closingChanged(command, state.bankAccountId);
}

const GoneRow = z.object({ gone: z.int() });

/** Refuses to agree a statement again that lines have left since. */
async function checkParts(
  { tx, booksId }: BooksCommand,
  id: StatementId,
  to: string,
  step: number,
): Promise<void> {
  const [row] = await rowsOf(
    tx,
    GoneRow,
    sql`select count(*)::int as gone from statement_parts p
        left join lines l on l.books_id = p.books_id and l.id = p.thing_id and l.is_here
        left join legs g on g.books_id = p.books_id and g.id = p.thing_id
        left join decision_lines dl on dl.books_id = p.books_id and dl.line_id = l.id and dl.is_live
        left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        where p.books_id = ${booksId} and p.statement_id = ${id} and p.step = ${step}
          and (coalesce(l.id, g.id) is null or d.kind in ('excluded', 'deleted'))`,
  );
  if ((row?.gone ?? 0) > 0) {
    fail('STATEMENT_PARTS_GONE', { to: formatLongDate(to), count: row?.gone ?? 0 });
  }
}

const DayRow = z.object({ id: z.string(), day: z.string(), kind: z.enum(countedKinds) });

const dayStanding: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
  const rows = await rowsOf(
    tx,
    DayRow,
    sql`select thing_id as id, day, kind from statement_days
        where books_id = ${booksId} and thing_id = any(${sql.param(ids)}::uuid[]) for update`,
  );
  return new Map(rows.map(({ id, day, kind }) => [id, { day, kind }]));
};

const DayState = z.object({ day: z.string(), kind: z.enum(countedKinds) });

/** On which day lines, and entries that were ticked, count in statements. */
export const statementDayThing: ThingHandler = {
  standing: dayStanding,
  missing: missingByStanding('statementDay', dayStanding),
  inTheWay: async ({ tx, booksId }, turns) => ({
    taken: await rowsOf(
      tx,
      z.object({ thing: z.literal('statement'), thingId: z.string() }),
      sql`select distinct 'statement' as thing, s.id as "thingId" from statement_parts p
          join statements s on s.books_id = p.books_id and s.id = p.statement_id
            and s.agreed_step = p.step
          where p.books_id = ${booksId}
            and p.thing_id = any(${sql.param(turns.map(({ thingId }) => thingId))}::uuid[])`,
    ),
  }),
  put: async ({ tx, booksId }, turns) => {
    const going = turns.filter(({ after }) => !isHere(after)).map(({ thingId }) => thingId);
    await tx.execute(
      sql`delete from statement_days
          where books_id = ${booksId} and thing_id = any(${sql.param(going)}::uuid[])`,
    );
    for (const { thingId, after } of turns) {
      if (after === null) continue;
      const { day, kind } = DayState.parse(after);
      await tx.execute(
        sql`insert into statement_days (books_id, thing_id, kind, day)
            values (${booksId}, ${thingId}, ${kind}, ${day})
            on conflict (books_id, thing_id) do update set day = excluded.day`,
      );
    }
  },
};
