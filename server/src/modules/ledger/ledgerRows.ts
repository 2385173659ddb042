import { type LedgerQuery, LedgerRow, type LedgerRows } from '@zubrell/contract/ledger';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { parseSearch } from '@zubrell/core/text/parseSearch';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { accountDays } from '../../db/accountDays.ts';
import { cursorOf, placeOf } from '../../db/cursor.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { lineBehind } from '../../db/lineBehind.ts';
import { idRow } from '../../db/rows.ts';
import { hasText } from '../../db/textSearch.ts';
import { booksCurrency } from '../books/queries.ts';
import { saysText } from './findEntries.ts';
import { isOfType, type LedgerTotals, type PageDays, pageDays } from './pageDays.ts';

const PAGE = 200;
const AND = sql` and `;

/** The order of legs of one account as they happened; what is later of the same day has a later step. */
const asHappened = sql`m.date, m.step, m.entry_id, m.position, m.turned`;
/** One order for the balance and the rows, so that the database sorts once. */
const byAccount = sql`m.code collate "C", m.account_id`;
const orders: Readonly<Record<LedgerQuery['order'], SQL>> = {
  newest: sql`m.date desc, m.step desc, m.entry_id desc, m.position desc, m.turned desc`,
  date: asHappened,
  account: sql`${byAccount}, ${asHappened}`,
};

const RankedRow = LedgerRow.extend({
  rank: z.int(),
  count: z.int(),
  debits: z.int(),
  credits: z.int(),
});

/**
 * Legs of the ledger, page by page, with what all that fit come to. The balance is that of the account after each leg,
 * whatever else is wanted of it.
 *
 * @throws {ZubrellError} REPORT_TURNED
 */
export async function ledgerRows(
  tx: Tx,
  booksId: BooksId,
  wanted: LedgerQuery,
): Promise<LedgerRows> {
  const { from, to, accountId, order, cursor, limit = PAGE } = wanted;
  if (from !== undefined && to !== undefined && from > to) {
    fail('REPORT_TURNED', { from: formatLongDate(from), to: formatLongDate(to) });
  }
  const after = Number(placeOf(cursor, 'id', 'number')?.[1] ?? 0);
  const hasBalance = accountId !== undefined || order === 'account';
  const { conditions, isByDays } = await conditionsOf(tx, booksId, wanted);
  const span = isByDays
    ? spanOfDays(await pageDays(tx, booksId, wanted, { after, limit }), hasBalance)
    : accountId === undefined && order === 'account'
      ? await accountsOfPage(tx, booksId, wanted, { conditions, after, limit })
      : { ...wholeSpan(wanted), before: 0, totals: null };
  const isOther = accountId !== undefined && (await isInOtherCurrency(tx, booksId, accountId));
  const rows = await rowsOf(
    tx,
    RankedRow,
    sql`with before as (${span.opening ?? openings(booksId, from)}),
        m as (
          select m.*,
            ${hasBalance ? sql`coalesce(b.amount, 0) + sum(m.amount) over (partition by ${byAccount} order by ${asHappened})` : sql`null::bigint`}
              as balance,
            ${isOther ? sql`coalesce(b.own, 0) + sum(m.own) over (order by ${asHappened})` : sql`null::bigint`}
              as own_balance
          from (
            select v.*, a.code, a.type from movements v
            join accounts a on a.books_id = v.books_id and a.id = v.account_id) m
          left join before b on b.account_id = m.account_id
          where m.books_id = ${booksId} and ${span.isIn}),
        fitting as (
          select m.*,
            (row_number() over (order by ${orders[order]}))::int as rank,
            (count(*) over ())::int as count,
            (sum(greatest(m.amount, 0)) over ())::bigint as debits,
            (sum(least(m.amount, 0)) over ())::bigint as credits
          from m
          where ${conditions}),
        shown as (
          select * from fitting where rank > ${after - span.before}
          order by rank limit ${limit})
        select n.entry_id as "entryId", n.leg_id as "legId", n.account_id as "accountId", n.date,
          n.payee_id as "payeeId", n.bank_date as "bankDate", n.turned,
          coalesce(src.description, e.note, '') as text, src.id as "lineId", e.kind, e.number,
          e.reference, e.method, e.note,
          (select count(*) from decision_legs x
            join decision_lines dl on dl.books_id = x.books_id and dl.decision_id = x.decision_id and dl.is_live
            where x.books_id = ${booksId} and x.leg_id = n.leg_id and x.is_live)::int as "lineCount",
          (select coalesce(json_agg(distinct o.account_id), '[]') from legs o
            where o.books_id = ${booksId} and o.entry_id = n.entry_id
              and o.account_id <> n.account_id and o.role <> 'tax') as "otherAccountIds",
          n.amount, n.balance::bigint as balance, ${isOther ? sql`n.own` : sql`null::bigint`} as own,
          n.own_balance::bigint as "ownBalance", n.rank, n.count, n.debits, n.credits
        from shown n
        join entries e on e.books_id = n.books_id and e.id = n.entry_id
        left join lateral (${lineBehind(sql`n.books_id`, sql`n.entry_id`)}) src on true
        order by n.rank`,
  );
  const { count, debits, credits } = span.totals ?? rows[0] ?? { count: 0, debits: 0, credits: 0 };
  const last = rows.at(-1);
  const rank = (last?.rank ?? 0) + span.before;
  return {
    items: rows.map(({ rank: _, count: __, debits: ___, credits: ____, ...row }) => row),
    next: last && rank < count ? cursorOf(last.legId, rank) : null,
    count,
    debits,
    credits,
  };
}

const SpanRow = z.object({
  accountId: idRow<AccountId>(),
  count: z.int(),
  debits: z.int(),
  credits: z.int(),
});

/** Which legs a page has to put in order, and what all come to. */
interface PageSpan {
  /** That leg `m` is one of them. */
  readonly isIn: SQL;
  /** What accounts stand at before them, as a query; null where that is what they stand at before the period. */
  readonly opening: SQL | null;
  /** So many legs come before them. */
  readonly before: number;
  /** What all pages come to; null where only the page itself can tell. */
  readonly totals: LedgerTotals | null;
}

/** All legs of an account, or of all, in a period. */
function wholeSpan({ from, to, accountId }: LedgerQuery): Pick<PageSpan, 'isIn' | 'opening'> {
  const isIn = [
    accountId === undefined ? sql`true` : sql`m.account_id = ${accountId}`,
    from === undefined ? sql`true` : sql`m.date >= ${from}`,
    to === undefined ? sql`true` : sql`m.date <= ${to}`,
  ];
  return { isIn: sql.join(isIn, AND), opening: null };
}

/** What accounts stand at before a day. */
const openings = (booksId: BooksId, from: string | undefined): SQL => sql`
  select account_id, sum(amount) as amount, sum(own) as own from ${accountDays(booksId)} m
  where ${from === undefined ? sql`false` : sql`date < ${from}`} group by 1`;

/** The legs of some days. @param isByAccount whether each account has days of its own */
function spanOfDays({ places, ...rest }: PageDays, isByAccount: boolean): PageSpan {
  const days = places.flatMap(({ from, to }) => [from, to]).sort();
  const isDay = sql`m.date between ${days[0] ?? null}::date and ${days.at(-1) ?? null}::date`;
  if (!isByAccount) return { ...rest, isIn: isDay, opening: null };
  const column = (of: (place: PageDays['places'][number]) => unknown) => sql.param(places.map(of));
  const place = sql`unnest(${column(({ accountId }) => accountId)}::uuid[], ${column(({ from }) => from)}::date[],
    ${column(({ to }) => to)}::date[], ${column(({ opening }) => opening)}::bigint[],
    ${column(({ ownOpening }) => ownOpening)}::bigint[]) as p (account_id, first, last, amount, own)`;
  return {
    ...rest,
    isIn: sql`${isDay} and m.account_id = any(${column(({ accountId }) => accountId)}::uuid[])
      and exists (select from ${place} where p.account_id = m.account_id and m.date between p.first and p.last)`,
    opening: sql`select p.account_id, p.amount, p.own from ${place}`,
  };
}

/** Which accounts a page is of, account by account: only their legs have to be put in order. */
async function accountsOfPage(
  tx: Tx,
  booksId: BooksId,
  wanted: LedgerQuery,
  page: { readonly conditions: SQL; readonly after: number; readonly limit: number },
): Promise<PageSpan> {
  const rows = await rowsOf(
    tx,
    SpanRow,
    sql`select m.account_id as "accountId", count(*)::int as count,
          sum(greatest(m.amount, 0))::bigint as debits, sum(least(m.amount, 0))::bigint as credits
        from (
          select v.*, a.code, a.type from movements v
          join accounts a on a.books_id = v.books_id and a.id = v.account_id) m
        where m.books_id = ${booksId} and ${wholeSpan(wanted).isIn} and ${page.conditions}
        group by m.account_id, m.code order by ${byAccount}`,
  );
  const accountIds: AccountId[] = [];
  let before = 0;
  let seen = 0;
  for (const { accountId, count } of rows) {
    if (seen + count <= page.after) before += count;
    else if (seen < page.after + page.limit) accountIds.push(accountId);
    seen += count;
  }
  const sum = (of: (row: z.infer<typeof SpanRow>) => number) =>
    rows.reduce((total, row) => total + of(row), 0);
  return {
    isIn: sql`${wholeSpan(wanted).isIn} and m.account_id = any(${sql.param(accountIds)}::uuid[])`,
    opening: null,
    before,
    totals: {
      count: sum(({ count }) => count),
      debits: sum(({ debits }) => debits),
      credits: sum(({ credits }) => credits),
    },
  };
}

const OtherRow = z.object({ isOther: z.boolean() });

/** Whether an account stands for a bank account in another currency. */
async function isInOtherCurrency(tx: Tx, booksId: BooksId, accountId: AccountId): Promise<boolean> {
  const [row] = await rowsOf(
    tx,
    OtherRow,
    sql`select exists (select from bank_accounts b
          where b.books_id = ${booksId} and b.account_id = ${accountId} and b.is_here
            and b.currency is not null) as "isOther"`,
  );
  return row?.isOther ?? false;
}

/**
 * What a leg `m` of entry `e` must be to be wanted, beside its account and period, and whether what moved by days tells
 * how many there are.
 */
async function conditionsOf(
  tx: Tx,
  booksId: BooksId,
  { payeeId, costCentreId, jobId, of, search = '' }: LedgerQuery,
): Promise<{ readonly conditions: SQL; readonly isByDays: boolean }> {
  const conditions: SQL[] = [];
  if (payeeId === 'none') conditions.push(sql`m.payee_id is null`);
  else if (payeeId !== undefined) {
    conditions.push(sql`m.payee_id in (select p.id from payees p
      where p.books_id = m.books_id and (p.id = ${payeeId} or p.merged_into = ${payeeId}))`);
  }
  if (costCentreId !== undefined) conditions.push(isTagged(sql`m.cost_centre_id`, costCentreId));
  if (jobId !== undefined) conditions.push(isTagged(sql`m.job_id`, jobId));
  const found = parseSearch(search, await booksCurrency(tx, booksId));
  if (found.kind === 'text')
    conditions.push(
      ofEntry(sql`${saysText(found.text)} or ${isOfPayee(found.text)} or ${isWorded(found.text)}`),
    );
  // A number may be an amount or what something is found by.
  if (found.kind === 'amount') {
    const says = sql`${hasText(sql`e.number`, search.trim())} or ${hasText(sql`e.reference`, search.trim())}`;
    conditions.push(sql`(abs(m.amount) between ${found.from} and ${found.to} or ${ofEntry(says)})`);
  }
  const isOf = of === undefined ? sql`true` : isOfType(sql`m.type`, of);
  return { conditions: sql.join([isOf, ...conditions], AND), isByDays: conditions.length === 0 };
}

/** That the entry `e` of leg `m` is so. */
const ofEntry = (condition: SQL): SQL => sql`exists (select from entries e
  where e.books_id = m.books_id and e.id = m.entry_id and (${condition}))`;

const isTagged = (column: SQL, wanted: string): SQL =>
  wanted === 'none' ? sql`${column} is null` : sql`${column} = ${wanted}`;

/** That the bank's line behind entry `e` has a text in its wording. */
function isWorded(typed: string): SQL {
  const behind = lineBehind(sql`e.books_id`, sql`e.id`);
  return sql`exists (select from (${behind}) behind where ${hasText(sql`behind.description`, typed)})`;
}

/** That the payee of entry `e` has a text in its name. */
function isOfPayee(typed: string): SQL {
  return sql`exists (select from payees p
    left join payees q on q.books_id = p.books_id and q.id = p.merged_into
    where p.books_id = e.books_id and p.id = e.payee_id
      and ${hasText(sql`coalesce(q.name, p.name)`, typed)})`;
}
