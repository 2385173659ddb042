import { Rate } from '@zubrell/contract/common';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { turnedState } from '../steps/putItems.ts';
import type { Need } from '../steps/recordStep.ts';
import { isHere, missingByStanding, type ThingHandler } from '../steps/things.ts';

/** A rate as steps keep it. */
export const RateState = z.object({ currency: z.string(), date: z.string(), rate: Rate });
export type RateState = z.infer<typeof RateState>;

const StandingRow = z.object({ id: z.string(), state: RateState });

const standing: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
  const rows = await rowsOf(
    tx,
    StandingRow,
    sql`select r.id, jsonb_build_object('currency', r.currency, 'date', r.date,
          'rate', trim_scale(r.rate)::text) as state
        from exchange_rates r
        where r.books_id = ${booksId} and r.is_here and r.id = any(${sql.param(ids)}::uuid[])
        for update`,
  );
  return new Map(rows.map(({ id, state }) => [id, state]));
};

const TakenRow = z.object({ id: z.string() });

/** What currencies were worth on days. What was posted by a rate keeps it. */
export const exchangeRateThing: ThingHandler = {
  standing,
  missing: missingByStanding('exchangeRate', standing),
  inTheWay: async ({ tx, booksId }, turns) => {
    const coming = turns.flatMap(({ thingId, before, after }) =>
      !isHere(before) && isHere(after) ? [{ thingId, ...RateState.parse(after) }] : [],
    );
    const rows = await rowsOf(
      tx,
      TakenRow,
      sql`select r.id from exchange_rates r
          join unnest(
            ${sql.param(coming.map(({ currency }) => currency))}::text[],
            ${sql.param(coming.map(({ date }) => date))}::date[]) as w (currency, date)
            on w.currency = r.currency and w.date = r.date
          where r.books_id = ${booksId} and r.is_here
            and r.id <> all(${sql.param(turns.map(({ thingId }) => thingId))}::uuid[])`,
    );
    return { taken: rows.map(({ id }): Need => ({ thing: 'exchangeRate', thingId: id })) };
  },
  put: async (command, turns) => {
    const now = await standing(
      command,
      turns.map(({ thingId }) => thingId),
    );
    await putRates(
      command,
      turns.map((turn) => {
        const next = turnedState(now.get(turn.thingId) ?? null, turn);
        return { id: turn.thingId, state: next === null ? null : RateState.parse(next) };
      }),
    );
  },
};

/** Writes rates; null where one is removed. */
export async function putRates(
  { tx, booksId }: BooksCommand,
  put: readonly { readonly id: string; readonly state: RateState | null }[],
): Promise<void> {
  const gone = put.filter(({ state }) => state === null).map(({ id }) => id);
  await tx.execute(
    sql`update exchange_rates set is_here = false
        where books_id = ${booksId} and id = any(${sql.param(gone)}::uuid[])`,
  );
  const here = put.flatMap(({ id, state }) => (state === null ? [] : [{ id, ...state }]));
  await tx.execute(
    sql`insert into exchange_rates (books_id, id, currency, date, rate)
        select ${booksId}::uuid, id, currency, date, rate
        from unnest(
          ${sql.param(here.map(({ id }) => id))}::uuid[],
          ${sql.param(here.map(({ currency }) => currency))}::text[],
          ${sql.param(here.map(({ date }) => date))}::date[],
          ${sql.param(here.map(({ rate }) => rate))}::numeric[]) as put (id, currency, date, rate)
        on conflict (books_id, id) do update set is_here = true, currency = excluded.currency,
          date = excluded.date, rate = excluded.rate`,
  );
}
