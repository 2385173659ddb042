import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type { Valuation } from '@zubrell/contract/currencies';
import { addDays, formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import { differenceLeg, type ExchangedLeg } from '@zubrell/core/exchange/exchangedLegs';
import type { BooksId, EntryId } from '@zubrell/core/ids';
import { documentSides } from '@zubrell/core/ledger/documents';
import { sumOf } from '@zubrell/core/money/minor';
import { dateSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { IdRow, idRow } from '../../db/rows.ts';
import { loadMoney } from '../books/money.ts';
import { entryItem } from '../ledger/handPlans.ts';
import { insertEntries, type NewEntry } from '../ledger/insertEntries.ts';
import { agedDocuments } from '../reports/agedDocuments.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { putItems } from '../steps/putItems.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';

const BankRow = z.object({
  name: z.string(),
  accountId: z.string(),
  currency: z.string(),
  original: z.int(),
  stands: z.int(),
});

const ValuedRow = z.object({
  id: idRow<EntryId>(),
  reversalId: idRow<EntryId>().nullable(),
});

type Item = Valuation['items'][number];

/**
 * What of the books is in other currencies at the end of a day, and what the rate of the day makes of it: bank accounts
 * by what the bank has, documents by what is open. Earlier valuations are left out: they were reversed.
 */
export async function valuationOf(tx: Tx, booksId: BooksId, date: string): Promise<Valuation> {
  const banks = await rowsOf(
    tx,
    BankRow,
    sql`select b.name, b.account_id as "accountId", b.currency,
          (coalesce(m.own, 0) - coalesce(v.own, 0))::bigint as original,
          (coalesce(m.amount, 0) - coalesce(v.amount, 0))::bigint as stands
        from bank_accounts b
        cross join lateral (
          select sum(y.own) as own, sum(y.amount) as amount from moved_days y
          where y.books_id = b.books_id and y.account_id = b.account_id and y.date <= ${date}) m
        cross join lateral (
          select sum(y.own) as own, sum(y.amount) as amount from movements y
          where y.books_id = b.books_id and y.account_id = b.account_id and y.date <= ${date}
            and y.entry_id = any(array(
              select e.id from entries e where e.books_id = ${booksId} and e.kind = 'valuation'))) v
        where b.books_id = ${booksId} and b.is_here and b.currency is not null order by b.name`,
  );
  const open = await openDocuments(tx, booksId, date);
  const found = [...banks.map((row) => ({ kind: 'bank' as const, ...row })), ...open].filter(
    ({ original, stands }) => original !== 0 || stands !== 0,
  );
  const money = await loadMoney(
    tx,
    booksId,
    found.map(({ currency }) => ({ currency, date })),
  );
  const items = found.map((item): Item => {
    const day = { currency: item.currency, date };
    const worth = money.worth({ ...day, amount: item.original });
    return { ...item, rate: money.rateOn(day), worth };
  });
  return { date, items, entryId: (await valuedOn(tx, booksId, date))?.id ?? null };
}

/** What is open in each currency, by what it is owed on. */
async function openDocuments(tx: Tx, booksId: BooksId, date: string) {
  const found: Omit<Item, 'rate' | 'worth'>[] = [];
  const exchanged = await rowsOf(
    tx,
    IdRow,
    sql`select id from documents where books_id = ${booksId} and exchange is not null limit 1`,
  );
  if (exchanged.length === 0) return found;
  for (const side of documentSides) {
    const { documents, accountId } = await agedDocuments(tx, booksId, { side, on: date });
    for (const { currency, original, open } of documents) {
      if (currency === null || original === null || accountId === null) continue;
      const known = found.find((item) => item.kind === side && item.currency === currency);
      // A document is signed as the money comes: that is a debit for what customers owe.
      if (known) {
        known.original += original;
        known.stands += open;
        continue;
      }
      found.push({ kind: side, name: null, accountId, currency, original, stands: open });
    }
  }
  return found;
}

async function valuedOn(tx: Tx, booksId: BooksId, date: string) {
  const [valued] = await rowsOf(
    tx,
    ValuedRow,
    sql`select e.id, r.id as "reversalId" from entries e
        left join entries r on r.books_id = e.books_id and r.reverses = e.id and not r.is_void
        where e.books_id = ${booksId} and e.kind = 'valuation' and e.date = ${date}
          and e.reverses is null and not e.is_void`,
  );
  return valued;
}

/**
 * Values what is open in other currencies at the rate of a day: a journal against exchange gain or loss, reversed the
 * next day. An earlier valuation of the same day gives way to it.
 *
 * @throws {ZubrellError} VALUATION_NOTHING, RATE_MISSING, ACCOUNT_ROLE_MISSING, PERIOD_CLOSED
 */
export async function valueCurrencies(
  command: BooksCommand,
  { date }: { readonly date: string },
): Promise<StepDone> {
  const { tx, booksId } = command;
  const { items } = await valuationOf(tx, booksId, date);
  const money = await loadMoney(tx, booksId, []);
  const legs = items.flatMap(({ accountId, currency, stands, worth, kind }): ExchangedLeg[] => {
    if (worth === null) {
      return fail('RATE_MISSING', { currency, own: money.own, date: formatLongDate(date) });
    }
    const amount = worth - stands;
    if (amount === 0) return [];
    const role = kind === 'bank' ? 'base' : 'control';
    return [{ accountId, amount, taxCodeId: null, role, original: 0 }];
  });
  const before = await valuedOn(tx, booksId, date);
  const gone: StepItem[] = before
    ? [before.reversalId, before.id].flatMap((id) => (id === null ? [] : [entryItem(id, false)]))
    : [];
  if (legs.length === 0 && gone.length === 0) fail('VALUATION_NOTHING');
  await putItems(command, gone);
  const made = legs.length === 0 ? [] : entriesOf(legs, date, money.differenceAccount());
  await insertEntries(command, made);
  const done = await recordDone(command, {
    kind: 'valueCurrencies',
    words: say`Valued other currencies at ${dateSaid(date)}`,
    items: [...gone, ...made.map(({ id }) => entryItem(id, true))],
  });
  return done;
}

/** The journal and its reversal. */
function entriesOf(
  legs: readonly ExchangedLeg[],
  date: string,
  differenceAccount: string,
): NewEntry[] {
  const all = [...legs, differenceLeg(differenceAccount, -sumOf(legs))].filter(
    ({ amount }) => amount !== 0,
  );
  const id = randomUUID();
  const entry = { kind: 'valuation' as const, payeeId: null };
  const withIds = (sign: 1 | -1) =>
    all.map((leg) => ({ ...leg, amount: sign * leg.amount, id: randomUUID() }));
  const note = `Valuation of other currencies at ${formatLongDate(date)}`;
  return [
    { ...entry, id, date, note, legs: withIds(1) },
    {
      ...entry,
      id: randomUUID(),
      date: addDays(date, 1),
      note: `Reversal: ${note}`,
      reverses: id,
      legs: withIds(-1),
    },
  ];
}
