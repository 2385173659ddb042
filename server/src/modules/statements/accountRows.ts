import type { AccountId, BankAccountId, BooksId, DecisionId, EntryId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { isWeighed } from '../decisions/isWeighed.ts';
import { countedTo, isTwice, joinLiveDecision } from '../lines/lineState.ts';
import { lateDays } from './lateDays.ts';

/** A line of a bank account as statements see it. */
export const AccountLine = z.object({
  id: z.string(),
  /** The day on which it counts: its own, the one that somebody said, or the first open one. */
  counts: z.string(),
  date: z.string(),
  day: z.string().nullable(),
  amount: z.int(),
  balance: z.int().nullable(),
  text: z.string(),
  cardholder: z.string().nullable(),
  stem: z.string(),
  /** Nobody brought it by file or feed. */
  isTyped: z.boolean(),
  isDoubted: z.boolean(),
  /** Whether the bank really moved it on this account, as what was decided says. */
  isWeighed: z.boolean(),
  state: z.enum(['open', 'asked', 'posted', 'paired', 'excluded', 'deleted']),
  decisionId: idRow<DecisionId>().nullable(),
  /** The last day of the agreed statement that counts it. */
  countedTo: z.string().nullable(),
  batchAt: z.string().nullable(),
});
export type AccountLine = z.infer<typeof AccountLine>;

/** The day on which line `l` of bank account `b` counts as long as no agreed statement does. */
export const countsOn: SQL = sql`greatest(coalesce(sd.day, l.date), b.closed_to + 1)`;

/** Where a line's own day in statements stands. For use behind `from lines l`. */
export const joinStatementDay: SQL = sql`
  left join statement_days sd on sd.books_id = l.books_id and sd.thing_id = l.id`;

/** Lines that count, or could, in statements of an account between two days, in the order of statements. */
export async function accountLines(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  { from, to }: DayRange,
): Promise<AccountLine[]> {
  const may = mayCount(booksId, bankAccountId, { from, to });
  const found = await linesAmong(tx, booksId, bankAccountId, may);
  const isIn = (day: string) => day >= from && day <= to;
  return found.filter(({ counts, date }) => isIn(counts) || isIn(date));
}

/**
 * Some lines of an account as statements see them, in the order of statements.
 *
 * @param which selects their ids
 */
export function linesAmong(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  which: SQL,
): Promise<AccountLine[]> {
  return rowsOf(
    tx,
    AccountLine,
    sql`select l.id, coalesce(c.counted, case when ${isWeighed} then ${countsOn} else l.date end)::text as counts, l.date, sd.day, l.amount, l.balance,
          l.description as text, l.cardholder, l.stem, seen.at is null as "isTyped", ${isTwice} as "isDoubted",
          ${isWeighed} as "isWeighed",
          coalesce(d.kind, case when l.asked is not null then 'asked' else 'open' end) as state,
          d.id as "decisionId", c.counted as "countedTo", seen.at::text as "batchAt"
        from lines l
        join bank_accounts b on b.books_id = l.books_id and b.id = l.bank_account_id
        ${joinStatementDay} ${joinLiveDecision}
        left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        cross join lateral (select ${countedTo} as counted offset 0) c
        left join lateral (
          select t.created_at as at, g.place from sightings g
          join batches t on t.books_id = g.books_id and t.id = g.batch_id and t.status = 'kept'
          where g.books_id = l.books_id and g.line_id = l.id
          order by t.created_at limit 1) seen on true
        where l.books_id = ${booksId} and l.bank_account_id = ${bankAccountId} and l.is_here
          -- As an array they are looked up one by one: as a table, all lines of the account were read for them.
          and l.id = any(array(${which}))
          and l.date > coalesce((
            select max(e.date) from entries e
            where e.books_id = ${booksId} and e.opening_of = ${bankAccountId} and not e.is_void), '-infinity')
        order by counts, l.date, "batchAt", coalesce(seen.place, l.position), l.id`,
  );
}

/** Days from one to another, both among them. */
export interface DayRange {
  readonly from: string;
  readonly to: string;
}

/**
 * The lines of an account that may count between two days, each asked for by an index: by their own day, by one that
 * somebody said, by an agreed statement, and those that no statement before the close counts.
 */
function mayCount(booksId: BooksId, bankAccountId: BankAccountId, { from, to }: DayRange): SQL {
  const ofAccount = sql`n.books_id = ${booksId} and n.bank_account_id = ${bankAccountId}`;
  const agreed = sql`statement_parts part
    join statements s on s.books_id = part.books_id and s.id = part.statement_id
      and s.agreed_step = part.step`;
  return sql`
    select n.id from lines n
    where ${ofAccount} and n.date between ${from} and ${to}
    union all
    select own.thing_id from statement_days own where own.books_id = ${booksId}
    union all
    select part.thing_id from ${agreed}
    where s.books_id = ${booksId} and s.bank_account_id = ${bankAccountId}
      and s.to_date between ${from} and ${to}
    union all
    select n.id from lines n
    where ${ofAccount} and n.date = any(array(
        select date from ${lateDays(booksId)} late where late.bank_account_id = ${bankAccountId}))
      and not exists (
        select from ${agreed} where part.books_id = n.books_id and part.thing_id = n.id)`;
}

const BookedRow = z.object({
  lineId: z.string(),
  entryId: idRow<EntryId>(),
  payeeId: z.string().nullable(),
  accountIds: z.array(z.string()),
});

/** How lines stand in the books: their entry, its payee, and the accounts that it goes to, but for tax. */
export async function bookedLines(
  tx: Tx,
  booksId: BooksId,
  lineIds: readonly string[],
): Promise<ReadonlyMap<string, z.infer<typeof BookedRow>>> {
  const rows = await rowsOf(
    tx,
    BookedRow,
    sql`select distinct on (dl.line_id) dl.line_id as "lineId", e.id as "entryId",
          e.payee_id as "payeeId",
          (select coalesce(json_agg(distinct o.account_id), '[]') from legs o
            where o.books_id = e.books_id and o.entry_id = e.id
              and o.account_id <> g.account_id and o.role <> 'tax') as "accountIds"
        from decision_lines dl
        join decision_legs x on x.books_id = dl.books_id and x.decision_id = dl.decision_id
          and x.is_live
        join legs g on g.books_id = x.books_id and g.id = x.leg_id and g.role = 'bank'
        join entries e on e.books_id = g.books_id and e.id = g.entry_id
        where dl.books_id = ${booksId} and dl.is_live
          and dl.line_id = any(${sql.param(lineIds)}::uuid[])
        order by dl.line_id, e.date`,
  );
  return new Map(rows.map((row) => [row.lineId, row]));
}

/** A leg on a bank account that no line is tied to: it can be ticked against a printed statement. */
export const TickableLeg = z.object({
  id: z.string(),
  entryId: idRow<EntryId>(),
  date: z.string(),
  day: z.string().nullable(),
  amount: z.int(),
  text: z.string(),
  payeeId: z.string().nullable(),
  accountIds: z.array(z.string()),
  countedTo: z.string().nullable(),
});
export type TickableLeg = z.infer<typeof TickableLeg>;

/** Legs of a bank account up to a day that no line is tied to, by day. */
export function tickableLegs(
  tx: Tx,
  booksId: BooksId,
  accountId: AccountId,
  to: string,
): Promise<TickableLeg[]> {
  return rowsOf(
    tx,
    TickableLeg,
    sql`select l.id, e.id as "entryId", e.date, sd.day, l.own as amount,
          coalesce(e.note, y.name, e.kind) as text, e.payee_id as "payeeId",
          (select coalesce(json_agg(distinct o.account_id), '[]') from legs o
            where o.books_id = e.books_id and o.entry_id = e.id
              and o.account_id <> l.account_id and o.role <> 'tax') as "accountIds",
          ${countedTo} as "countedTo"
        from legs l
        join entries e on e.books_id = l.books_id and e.id = l.entry_id and not e.is_void
          and e.kind <> 'opening'
        left join payees y on y.books_id = e.books_id and y.id = e.payee_id
        ${joinStatementDay}
        where l.books_id = ${booksId} and l.account_id = ${accountId} and e.date <= ${to}
          and l.own <> 0 and not exists (select from decision_legs x
            where x.books_id = l.books_id and x.leg_id = l.id and x.is_live)
        order by e.date, e.step, l.id`,
  );
}
