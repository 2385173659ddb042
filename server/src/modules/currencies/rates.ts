import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type { ExchangeRates, GivenRate } from '@zubrell/contract/currencies';
import { ExchangeRate } from '@zubrell/contract/currencies';
import type { Imported } from '@zubrell/contract/ledger';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import { readRates } from '@zubrell/core/exchange/readRates';
import type { BooksId } from '@zubrell/core/ids';
import { countSaid, dateSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { booksCurrency } from '../books/queries.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';
import { exchangeRateThing, putRates, RateState } from './rateThing.ts';

const UsedRow = z.object({ currency: z.string() });

/** So many rates are shown, the newest first. */
const SHOWN = 4_000;

/** The rates of the books, the newest first, and the currencies that their bank accounts and documents are in. */
export async function exchangeRates(tx: Tx, booksId: BooksId): Promise<ExchangeRates> {
  const rates = await rowsOf(
    tx,
    ExchangeRate,
    sql`select id, currency, date, trim_scale(rate)::text as rate from exchange_rates
        where books_id = ${booksId} and is_here order by date desc, currency limit ${SHOWN}`,
  );
  const used = await usedCurrencies(tx, booksId);
  return { rates, used: [...used] };
}

async function usedCurrencies(tx: Tx, booksId: BooksId): Promise<readonly string[]> {
  const rows = await rowsOf(
    tx,
    UsedRow,
    sql`select currency from bank_accounts where books_id = ${booksId} and is_here and currency is not null
        union select exchange ->> 'currency' from documents
          where books_id = ${booksId} and exchange is not null
        union select currency from exchange_rates where books_id = ${booksId} and is_here
        order by 1`,
  );
  return rows.map(({ currency }) => currency);
}

/**
 * Says what a currency was worth on a day, in place of what was said before. What is posted keeps its rate.
 *
 * @throws {ZubrellError} RATE_OWN
 */
export async function setRate(command: BooksCommand, given: GivenRate): Promise<StepDone> {
  const { tx, booksId } = command;
  const own = await booksCurrency(tx, booksId);
  if (given.currency === own) fail('RATE_OWN', { currency: own });
  const [item] = await itemsOf(command, [given]);
  if (!item) fail('RATE_SAME', { currency: given.currency, date: formatLongDate(given.date) });
  await putRates(command, [{ id: item.thingId, state: given }]);
  const words = say`Set 1 ${given.currency} to ${given.rate} ${own} for ${dateSaid(given.date)}`;
  return recordDone(command, { kind: 'setRate', words, items: [item] });
}

/** Removes a rate. What was posted by it keeps it. @throws {ZubrellError} RATE_UNKNOWN */
export async function removeRate(command: BooksCommand, id: string): Promise<StepDone> {
  const found = await exchangeRateThing.standing(command, [id]);
  const before = RateState.parse(found.get(id) ?? fail('RATE_UNKNOWN'));
  await putRates(command, [{ id, state: null }]);
  return recordDone(command, {
    kind: 'removeRate',
    words: say`Removed the rate of ${before.currency} for ${dateSaid(before.date)}`,
    items: [{ thing: 'exchangeRate', thingId: id, before, after: null }],
  });
}

/** At most so many rates are taken in by one step. */
const MOST = 10_000;

/**
 * Takes the rates of a file in, those of currencies that the books use; all of it or nothing.
 *
 * @throws {ZubrellError} RATES_TOO_MANY
 */
export async function importRates(command: BooksCommand, text: string): Promise<Imported> {
  const { tx, booksId } = command;
  const { rates, problems } = readRates(text, await booksCurrency(tx, booksId));
  const used = new Set(await usedCurrencies(tx, booksId));
  const wanted = rates.filter(({ currency }) => used.has(currency));
  const nothing = { step: null, words: 'Nothing changed', count: 0, newPayees: [] };
  if (problems.length > 0) return { ...nothing, problems: [...problems] };
  if (rates.length > 0 && wanted.length === 0) {
    const message = 'No bank account or document is in any of its currencies.';
    return { ...nothing, problems: [{ row: 1, message }] };
  }
  if (wanted.length > MOST) fail('RATES_TOO_MANY', { count: wanted.length, most: MOST });
  const items = await itemsOf(command, wanted);
  if (items.length === 0) return { ...nothing, problems: [] };
  await putRates(
    command,
    items.map(({ thingId, after }) => ({ id: thingId, state: RateState.parse(after) })),
  );
  const words = say`Imported ${countSaid(items.length, 'exchange rate', 'exchange rates')}`;
  const done = await recordDone(command, { kind: 'importRates', words, items });
  return { ...done, count: items.length, problems: [], newPayees: [] };
}

const StandingRow = ExchangeRate;

/** What changes when rates are said; the last one of a day counts. */
async function itemsOf(
  { tx, booksId }: BooksCommand,
  wanted: readonly RateState[],
): Promise<StepItem[]> {
  const last = new Map(wanted.map((rate) => [`${rate.currency} ${rate.date}`, rate]));
  const each = [...last.values()];
  const standing = await rowsOf(
    tx,
    StandingRow,
    sql`select r.id, r.currency, r.date, trim_scale(r.rate)::text as rate
        from exchange_rates r
        join unnest(
          ${sql.param(each.map(({ currency }) => currency))}::text[],
          ${sql.param(each.map(({ date }) => date))}::date[]) as w (currency, date)
          on w.currency = r.currency and w.date = r.date
        where r.books_id = ${booksId} and r.is_here`,
  );
  const there = new Map(standing.map((row) => [`${row.currency} ${row.date}`, row]));
  return each.flatMap(({ currency, date, rate }): StepItem[] => {
    const found = there.get(`${currency} ${date}`);
    if (found?.rate === rate) return [];
    const before = found ? { currency, date, rate: found.rate } : null;
    const thingId = found?.id ?? randomUUID();
    return [{ thing: 'exchangeRate', thingId, before, after: { currency, date, rate } }];
  });
}
