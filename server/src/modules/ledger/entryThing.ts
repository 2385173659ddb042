import type { BankAccountId } from '@zubrell/core/ids';
import { ownKinds } from '@zubrell/core/ledger/entries';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { IdRow, idRow } from '../../db/rows.ts';
import { Need } from '../steps/recordStep.ts';
import { isUndoneStep } from '../steps/stepState.ts';
import { isHere, type ThingHandler } from '../steps/things.ts';

const StandingRow = z.object({ id: z.string(), isVoid: z.boolean() });

const BankAccountIdRow = z.object({ bankAccountId: idRow<BankAccountId>() });

/** Entries that steps name: those made by hand, and opening balances. */
export const entryThing: ThingHandler = {
  table: 'entries',
  standing: async ({ tx, booksId }, ids) => {
    const rows = await rowsOf(
      tx,
      StandingRow,
      sql`select id, is_void as "isVoid" from entries
          where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[]) for update`,
    );
    return new Map(rows.map(({ id, isVoid }) => [id, { isVoid }]));
  },
  // An entry that a line made comes back with whatever is tied to it, as long as the step that made it holds.
  missing: async ({ tx, booksId }, ids) => {
    const rows = await rowsOf(
      tx,
      IdRow,
      sql`select e.id from entries e
          join steps s on s.books_id = e.books_id and s.no = e.step
          where e.books_id = ${booksId} and e.id = any(${sql.param(ids)}::uuid[]) and e.is_void
            and (e.kind <> all(${sql.param(ownKinds)}::text[]) or ${isUndoneStep})`,
    );
    return rows.map(({ id }) => ({ thing: 'entry', thingId: id }));
  },
  inTheWay: async ({ tx, booksId }, turns, all) => {
    const coming = turns.filter(({ after }) => isHere(after)).map(({ thingId }) => thingId);
    const going = turns.filter(({ after }) => !isHere(after)).map(({ thingId }) => thingId);
    // Of an account's opening balance, a journal's date and a journal's reversal there is only one.
    const others = await rowsOf(
      tx,
      Need,
      sql`select 'entry' as thing, o.id as "thingId" from entries e
          join entries o on o.books_id = e.books_id and not o.is_void and o.id <> e.id
            and (o.opening_of = e.opening_of or o.reverses = e.reverses
              or (o.plan_id = e.plan_id and o.plan_date = e.plan_date))
          where e.books_id = ${booksId} and e.id = any(${sql.param(coming)}::uuid[])
            and o.id <> all(${sql.param(going)}::uuid[])`,
    );
    const reversals = await rowsOf(
      tx,
      Need,
      sql`select 'entry' as thing, o.id as "thingId" from entries o
          where o.books_id = ${booksId} and not o.is_void
            and o.reverses = any(${sql.param(going)}::uuid[])
            and o.id <> all(${sql.param(going)}::uuid[])`,
    );
    const leaving = all.filter(({ thing }) => thing === 'line').map(({ thingId }) => thingId);
    const settling = all
      .filter(({ thing, after }) => thing === 'offset' && !isHere(after))
      .map(({ thingId }) => thingId);
    const tied = await rowsOf(
      tx,
      Need,
      sql`select distinct 'decision' as thing, x.decision_id as "thingId" from legs g
          join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id and x.is_live
          where g.books_id = ${booksId} and g.entry_id = any(${sql.param(going)}::uuid[])
            and x.decision_id <> all(${sql.param(settling)}::uuid[])
            and not exists (select from decision_lines dl
              where dl.books_id = x.books_id and dl.decision_id = x.decision_id
                and dl.line_id = any(${sql.param(leaving)}::uuid[]))`,
    );
    return { taken: [...others, ...reversals, ...tied] };
  },
  put: async (command, turns) => {
    const { tx, booksId } = command;
    const ids = turns.map(({ thingId }) => thingId);
    await tx.execute(
      sql`update entries e set is_void = put.is_void
          from unnest(${sql.param(ids)}::uuid[],
            ${sql.param(turns.map(({ after }) => !isHere(after)))}::boolean[]) as put (id, is_void)
          where e.books_id = ${booksId} and e.id = put.id`,
    );
    const openings = await rowsOf(
      tx,
      BankAccountIdRow,
      sql`select opening_of as "bankAccountId" from entries
          where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[]) and opening_of is not null`,
    );
    for (const { bankAccountId } of openings) {
      await command.follow.closingChanged(command, bankAccountId);
    }
    await command.follow.entriesChanged(command, ids);
  },
};
