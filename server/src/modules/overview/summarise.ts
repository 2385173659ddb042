import { BooksSummary } from '@zubrell/contract/overview';
import { addDays, lastDayOf, monthOf } from '@zubrell/core/dates/calendarDate';
import type { BooksId } from '@zubrell/core/ids';
import { sumMinor } from '@zubrell/core/money/minor';
import type { Proof } from '@zubrell/core/proof/prove';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { loadMoney } from '../books/money.ts';
import { booksCurrency } from '../books/queries.ts';
import { bankDays } from '../proof/bankDays.ts';
import { scopeProof } from '../proof/queries.ts';

/** So many months are shown of each books. */
const MONTHS = 6;

const CountsRow = BooksSummary.pick({
  open: true,
  ready: true,
  check: true,
  asked: true,
  oldestAsked: true,
  askedOf: true,
});
const FeedsRow = BooksSummary.pick({ troubledFeed: true, feedCount: true, lastFetch: true });
const MonthRow = z.object({ month: z.string(), lockDate: z.string().nullable() });

/** Works out what the list of all books shows of these, and keeps it as of the newest step. */
export async function summarise(tx: Tx, booksId: BooksId, today: string): Promise<void> {
  const [counts] = await rowsOf(
    tx,
    CountsRow,
    sql`with open as (select lane from open_lines where books_id = ${booksId}),
        asked as (
          select asked_at, asked_of from questions
          where books_id = ${booksId} and state = 'open' order by asked_at limit 1)
        select count(*)::int as open, (count(*) filter (where lane = 'ready'))::int as ready,
          (count(*) filter (where lane = 'check'))::int as check,
          (count(*) filter (where lane = 'asked'))::int as asked,
          (select asked_at::date from asked) as "oldestAsked",
          (select asked_of from asked) as "askedOf"
        from open`,
  );
  const [feeds] = await rowsOf(
    tx,
    FeedsRow,
    sql`select count(*)::int as "feedCount", max(last_good_at)::date as "lastFetch",
          min(remote_name) filter (where last_result -> 'result' ->> 'kind' = 'trouble')
            as "troubledFeed"
        from feeds where books_id = ${booksId} and bank_account_id is not null`,
  );
  const rows = await rowsOf(
    tx,
    MonthRow,
    sql`select distinct to_char(l.date, 'YYYY-MM') as month, k.lock_date as "lockDate"
        from books k
        join ${bankDays(booksId)} l on true
        where k.id = ${booksId} order by 1`,
  );
  const lockDate = rows[0]?.lockDate ?? null;
  const isClosed = (month: string) => lockDate !== null && lastDayOf(month) <= lockDate;
  const known = new Set(rows.map(({ month }) => month));
  const proof = await scopeProof(tx, booksId, {});
  const summary: BooksSummary = {
    ...(counts ?? { open: 0, ready: 0, check: 0, asked: 0, oldestAsked: null, askedOf: null }),
    ...(feeds ?? { troubledFeed: null, feedCount: 0, lastFetch: null }),
    unexplained: await unexplainedWorth(tx, booksId, proof),
    months: lastMonths(today).map((month) => ({
      month,
      state: isClosed(month) ? 'closed' : known.has(month) ? 'open' : 'none',
    })),
    lastClosed: lockDate === null ? null : monthOf(lockDate),
    openMonth: rows.find(({ month }) => !isClosed(month))?.month ?? null,
  };
  await tx.execute(
    sql`insert into books_summaries (books_id, step, summary)
        select id, last_step, ${JSON.stringify(summary)}::jsonb from books where id = ${booksId}
        on conflict (books_id) do update set step = excluded.step, summary = excluded.summary
        where books_summaries.step <= excluded.step`,
  );
}

/** The newest six months up to the one before today's. */
function lastMonths(today: string): string[] {
  const months: string[] = [];
  let month = monthOf(addDays(`${monthOf(today)}-01`, -1));
  while (months.length < MONTHS) {
    months.unshift(month);
    month = monthOf(addDays(`${month}-01`, -1));
  }
  return months;
}

const CurrencyRow = z.object({ id: z.string(), currency: z.string() });

/**
 * What is unexplained, in the books' currency; of accounts in others by the rates of the days. Where causes cancel each
 * other it is the first of them: nil is only what has none.
 */
async function unexplainedWorth(tx: Tx, booksId: BooksId, proof: Proof | null): Promise<number> {
  if (proof === null || proof.causes.length === 0) return 0;
  const accounts = await rowsOf(
    tx,
    CurrencyRow,
    sql`select id, currency from bank_accounts where books_id = ${booksId} and currency is not null`,
  );
  const currencies = new Map(accounts.map(({ id, currency }) => [id, currency]));
  const own = await booksCurrency(tx, booksId);
  const causes = proof.causes.map(({ bankAccountId, date, amount }) => ({
    currency: currencies.get(bankAccountId) ?? own,
    date,
    amount,
  }));
  const money = await loadMoney(tx, booksId, causes);
  const worths = causes.map((cause) => money.worth(cause) ?? cause.amount);
  return sumMinor(worths) || (worths[0] ?? 0);
}
