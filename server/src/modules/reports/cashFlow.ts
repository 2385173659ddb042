import type { CashFlow } from '@zubrell/contract/reports';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { accountDays } from '../../db/accountDays.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { openInPeriod } from '../lines/openInPeriod.ts';
import { monthsOf, type Period } from './accountTotals.ts';

const TotalRow = z.object({
  accountId: idRow<AccountId>(),
  isBank: z.boolean(),
  /** Null for all before the period. */
  month: z.string().nullable(),
  count: z.int(),
  amount: z.int(),
  debits: z.int(),
});
type TotalRow = z.infer<typeof TotalRow>;

const MovedRow = TotalRow.pick({ accountId: true, month: true, amount: true, debits: true });
type MovedRow = z.infer<typeof MovedRow>;

/**
 * Money in and out of each bank account by month, without what moved between own accounts.
 *
 * @throws {ZubrellError} REPORT_TURNED, REPORT_LONG
 */
export async function cashFlow(tx: Tx, booksId: BooksId, { from, to }: Period): Promise<CashFlow> {
  const months = monthsOf({ from, to });
  const totals = await rowsOf(
    tx,
    TotalRow,
    sql`with own as (
          select account_id, true as is_bank from bank_accounts where books_id = ${booksId} and is_here
          union all select id, false from accounts
            where books_id = ${booksId} and role = 'transfers' and is_here)
        select d.account_id as "accountId", o.is_bank as "isBank",
          case when d.date >= ${from} then to_char(d.date, 'YYYY-MM') end as month,
          sum(d.count)::int as count, sum(d.amount)::bigint as amount, sum(d.debits)::bigint as debits
        from ${accountDays(booksId)} d
        join own o on o.account_id = d.account_id
        join accounts a on a.books_id = ${booksId} and a.id = d.account_id
        where d.date <= ${to} group by a.code, 1, 2, 3 order by a.code`,
  );
  const moved = await movedBetween(tx, booksId, { from, to }, totals);
  const ids = [...new Set(totals.flatMap(({ accountId, isBank }) => (isBank ? accountId : [])))];
  return {
    months,
    accounts: ids.map((accountId) => {
      const isOwn = (row: MovedRow) => row.accountId === accountId;
      const own = totals.filter(isOwn);
      const between = moved.filter(isOwn);
      return {
        accountId,
        opening: own.find(({ month }) => month === null)?.amount ?? 0,
        months: months.map((wanted) => {
          const all = own.find(({ month }) => month === wanted) ?? NOTHING;
          const { amount, debits } = between.find(({ month }) => month === wanted) ?? NOTHING;
          const out = all.amount - all.debits - (amount - debits);
          return { in: all.debits - debits, out, moved: amount };
        }),
      };
    }),
    open: await openInPeriod(tx, booksId, { from, to }),
  };
}

const NOTHING = { amount: 0, debits: 0 };

/**
 * What moved between own accounts in a period, by bank account and month. Each such entry is on one more account than
 * that on which most moved, so that this one need not be looked at.
 */
async function movedBetween(
  tx: Tx,
  booksId: BooksId,
  { from, to }: Period,
  totals: readonly TotalRow[],
): Promise<readonly MovedRow[]> {
  const counts = new Map<AccountId, number>();
  for (const { accountId, month, count } of totals) {
    if (month !== null) counts.set(accountId, (counts.get(accountId) ?? 0) + count);
  }
  const [, ...others] = [...counts].sort((a, b) => b[1] - a[1]).map(([accountId]) => accountId);
  if (others.length === 0) return [];
  const banks = new Set(totals.flatMap(({ accountId, isBank }) => (isBank ? accountId : [])));
  return rowsOf(
    tx,
    MovedRow,
    sql`with moves as materialized (
          select distinct m.entry_id from movements m
          join legs g on g.books_id = m.books_id and g.entry_id = m.entry_id
            and g.shown_account_id <> m.account_id
            and g.shown_account_id = any(${sql.param([...counts.keys()])}::uuid[])
          where m.books_id = ${booksId} and m.date between ${from} and ${to}
            and m.account_id = any(${sql.param(others)}::uuid[]))
        select m.account_id as "accountId", to_char(m.date, 'YYYY-MM') as month,
          sum(m.amount)::bigint as amount, sum(greatest(m.amount, 0))::bigint as debits
        from moves v
        join movements m on m.books_id = ${booksId} and m.entry_id = v.entry_id
          and m.account_id = any(${sql.param([...banks])}::uuid[])
        where m.date between ${from} and ${to}
        group by 1, 2`,
  );
}
