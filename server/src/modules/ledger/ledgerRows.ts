import { type LedgerQuery, LedgerRow, type LedgerRows } from '@zubrell/contract/ledger';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { parseSearch } from '@zubrell/core/text/parseSearch';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { cursorOf, placeOf } from '../../db/cursor.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { lineBehind } from '../../db/lineBehind.ts';
import { idRow } from '../../db/rows.ts';
import { hasText } from '../../db/textSearch.ts';
import { booksCurrency } from '../books/queries.ts';
import { saysText } from './findEntries.ts';

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
  const conditions = await conditionsOf(tx, booksId, wanted);
  const span =
    accountId === undefined && order === 'account'
      ? await accountsOfPage(tx, booksId, wanted, { conditions, after, limit })
      : null;
  const ofAccount = span
    ? sql`m.account_id = any(${sql.param(span.accountIds)}::uuid[])`
    : accountId === undefined
      ? sql`true`
      : sql`m.account_id = ${accountId}`;
  const isOther = accountId !== undefined && (await isInOtherCurrency(tx, booksId, accountId));
  const rows = await rowsOf(
    tx,
    RankedRow,
    sql`with before as (
          select m.account_id, sum(m.amount) as amount, sum(m.own) as own from movements m
          where m.books_id = ${booksId} and ${ofAccount}
            and ${from === undefined || !hasBalance ? sql`false` : sql`m.date < ${from}`}
          group by 1),
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
          where m.books_id = ${booksId} and ${ofAccount}
            and ${from === undefined ? sql`true` : sql`m.date >= ${from}`}
            and ${to === undefined ? sql`true` : sql`m.date <= ${to}`}),
        fitting as (
          select m.*,
            (row_number() over (order by ${orders[order]}))::int as rank,
            (count(*) over ())::int as count,
            (sum(greatest(m.amount, 0)) over ())::bigint as debits,
            (sum(least(m.amount, 0)) over ())::bigint as credits
          from m
          where ${conditions}),
        shown as (
          select * from fitting where rank > ${after - (span?.before ?? 0)}
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
  const { count = 0, debits = 0, credits = 0 } = span ?? rows[0] ?? {};
  const last = rows.at(-1);
  const rank = (last?.rank ?? 0) + (span?.before ?? 0);
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

/** The accounts whose legs a page of all accounts shows, and what all come to. */
interface PageSpan {
  readonly accountIds: readonly AccountId[];
  /** So many legs are of accounts before them. */
  readonly before: number;
  readonly count: number;
  readonly debits: number;
  readonly credits: number;
}

/** Which accounts a page is of, account by account: only their legs have to be put in order. */
async function accountsOfPage(
  tx: Tx,
  booksId: BooksId,
  { from, to }: LedgerQuery,
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
        where m.books_id = ${booksId}
          and ${from === undefined ? sql`true` : sql`m.date >= ${from}`}
          and ${to === undefined ? sql`true` : sql`m.date <= ${to}`} and ${page.conditions}
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
    accountIds,
    before,
    count: sum(({ count }) => count),
    debits: sum(({ debits }) => debits),
    credits: sum(({ credits }) => credits),
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

/** What a leg `m` of entry `e` must be to be wanted, beside its account and period. */
async function conditionsOf(
  tx: Tx,
  booksId: BooksId,
  { payeeId, costCentreId, jobId, of, search = '' }: LedgerQuery,
): Promise<SQL> {
  const conditions: SQL[] = [sql`true`];
  if (payeeId === 'none') conditions.push(sql`m.payee_id is null`);
  else if (payeeId !== undefined) {
    conditions.push(sql`m.payee_id in (select p.id from payees p
      where p.books_id = m.books_id and (p.id = ${payeeId} or p.merged_into = ${payeeId}))`);
  }
  if (of !== undefined) {
    conditions.push(
      of === 'other' ? sql`m.type not in ('income', 'expense')` : sql`m.type = ${of}`,
    );
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
  return sql.join(conditions, AND);
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
