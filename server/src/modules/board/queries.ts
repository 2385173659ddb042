import { type Board, type BoardCell, Clearing } from '@zubrell/contract/board';
import { daysBetween, lastDayOf, monthsBetween } from '@zubrell/core/dates/calendarDate';
import type { BooksId } from '@zubrell/core/ids';
import { sumOf } from '@zubrell/core/money/minor';
import type { ProofCause } from '@zubrell/core/proof/prove';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { accountDays } from '../../db/accountDays.ts';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { settingsOf } from '../books/changeBooks.ts';
import { journalsAhead } from '../journals/journalPlans.ts';
import { lastBankDay } from '../proof/bankDays.ts';
import { type BalanceChain, balanceChains } from '../proof/chain.ts';
import { scopeProof } from '../proof/queries.ts';
import { dueOf } from './due.ts';

/** So many months back, the Board goes at most. */
const MONTHS = 12;

const AccountRow = z.object({
  id: z.string(),
  closed: z.string().nullable(),
  knownTo: z.string().nullable(),
});

const CountRow = z.object({
  id: z.string(),
  month: z.string(),
  lines: z.number(),
  ready: z.number(),
  check: z.number(),
  blank: z.number(),
  asked: z.number(),
});
type CountRow = z.infer<typeof CountRow>;

/**
 * The Board: bank accounts by months, the newest twelve with a line, with what is open and unexplained.
 *
 * @param today the newest month is this day's, or that of the last line
 */
export async function boardOf(tx: Tx, booksId: BooksId, today: string): Promise<Board> {
  const accountsThere = rowsOf(
    tx,
    AccountRow,
    sql`select b.id, greatest(b.closed_to, k.lock_date) as closed, greatest(
            ${lastBankDay},
            (select max(t.closing_date) from batches t
              where t.books_id = b.books_id and t.bank_account_id = b.id and t.status = 'kept'))
          as "knownTo"
        from bank_accounts b join books k on k.id = b.books_id
        where b.books_id = ${booksId} and b.is_here order by b.kind <> 'current', b.name`,
  );
  const countsThere = rowsOf(
    tx,
    CountRow,
    sql`with counted as (
          select bank_account_id as id, date, lane, 1 as count from open_lines
          where books_id = ${booksId}
          union all
          select bank_account_id, date, null, count from decided_days
          where books_id = ${booksId} and count > 0)
        select id, to_char(date, 'YYYY-MM') as month, sum(count)::int as lines,
          (count(*) filter (where lane = 'ready'))::int as ready,
          (count(*) filter (where lane = 'check'))::int as check,
          (count(*) filter (where lane = 'blank'))::int as blank,
          (count(*) filter (where lane = 'asked'))::int as asked
        from counted group by 1, 2`,
  );
  const [accounts, counts, chains, proof, clearing, journals, due] = await together(
    accountsThere,
    countsThere,
    balanceChains(tx, booksId),
    scopeProof(tx, booksId, {}),
    clearingOf(tx, booksId, today),
    journalsAhead(tx, booksId, today),
    dueOf(tx, booksId, today),
  );
  const months = monthsOf(counts, today);
  const causes = proof?.causes ?? [];
  const total = (lane: 'ready' | 'check' | 'blank' | 'asked') =>
    counts.reduce((sum, row) => sum + row[lane], 0);
  return {
    months,
    rows: accounts.map(({ id, closed, knownTo }) => {
      const chain = chains.get(id);
      const ledgerCauses = causes.filter(
        ({ bankAccountId, kind }) => bankAccountId === id && kind !== 'bankDiffers',
      );
      const own = new Map(counts.filter((row) => row.id === id).map((row) => [row.month, row]));
      return {
        bankAccountId: id,
        knownTo,
        firstBreak: chain?.firstBreak ?? null,
        cells: months.map((month) =>
          cellOf(month, own.get(month), { chain, causes: ledgerCauses, closed }),
        ),
      };
    }),
    causes,
    clearing,
    journals,
    due,
    open: {
      ready: total('ready'),
      check: total('check'),
      blank: total('blank'),
      asked: total('asked'),
    },
  };
}

const ClearingRow = Clearing.omit({ days: true, isStale: true });

/**
 * What stands on suspense and between own accounts: how much, since when the account has not come to zero, and who
 * booked there last.
 */
async function clearingOf(tx: Tx, booksId: BooksId, today: string): Promise<Board['clearing']> {
  const rowsThere = rowsOf(
    tx,
    ClearingRow,
    sql`with day as (
          select c.id, c.role, m.date, sum(sum(m.amount)) over (partition by c.id order by m.date) as balance
          from accounts c
          join ${accountDays(booksId)} m on m.account_id = c.id
          where c.books_id = ${booksId} and c.role in ('suspense', 'transfers') and c.is_here
          group by c.id, c.role, m.date),
        stands as (
          select id, role, (array_agg(balance order by date desc))[1] as balance,
            coalesce(max(date) filter (where balance = 0), '-infinity') as settled
          from day group by id, role)
        select s.role, s.id as "accountId", s.balance::bigint as balance, count(distinct m.entry_id)::int as count,
          min(m.date) as since, (array_agg(u.name order by m.step desc))[1] as who
        from stands s
        join movements m on m.books_id = ${booksId} and m.account_id = s.id and m.date > s.settled
        join steps t on t.books_id = m.books_id and t.no = m.step
        join users u on u.id = t.user_id
        where s.balance <> 0
        group by s.role, s.id, s.balance`,
  );
  const [{ ages }, rows] = await together(settingsOf(tx, booksId), rowsThere);
  return rows.map((row) => {
    const days = daysBetween(row.since, today);
    const limit = row.role === 'suspense' ? ages.suspense : ages.transit;
    return { ...row, days, isStale: days >= limit };
  });
}

function monthsOf(counts: readonly CountRow[], today: string): string[] {
  const all = counts.map(({ month }) => month).sort();
  const [first] = all;
  const current = today.slice(0, 7);
  const last = all.at(-1) ?? current;
  if (first === undefined) return [current];
  return monthsBetween(first, last > current ? last : current).slice(-MONTHS);
}

function cellOf(
  month: string,
  row: CountRow | undefined,
  {
    chain,
    causes,
    closed,
  }: {
    readonly chain: BalanceChain | undefined;
    /** Why the account's ledger differs. */
    readonly causes: readonly ProofCause[];
    readonly closed: string | null;
  },
): BoardCell {
  const end = lastDayOf(month);
  const last = chain?.differences.findLast(({ date }) => date <= end);
  const inLedger = sumOf(causes.filter(({ date }) => date <= end));
  return {
    month,
    lines: row?.lines ?? 0,
    open: row ? row.ready + row.check + row.blank + row.asked : 0,
    ready: row?.ready ?? 0,
    unexplained: chain?.hasOpening && last ? last.difference + inLedger : inLedger || null,
    isClosed: closed !== null && end <= closed,
  };
}
