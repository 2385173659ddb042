import type { CashFlow } from '@zubrell/contract/reports';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { accountDays } from '../../db/accountDays.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { openInPeriod } from '../lines/openInPeriod.ts';
import { monthsOf, type Period } from './accountTotals.ts';

const CashRow = z.object({
  accountId: idRow<AccountId>(),
  /** Null for all before the period. */
  month: z.string().nullable(),
  in: z.int(),
  out: z.int(),
  moved: z.int(),
});

/**
 * Money in and out of each bank account by month, without what moved between own accounts.
 *
 * @throws {ZubrellError} REPORT_TURNED, REPORT_LONG
 */
export async function cashFlow(tx: Tx, booksId: BooksId, { from, to }: Period): Promise<CashFlow> {
  const months = monthsOf({ from, to });
  const rows = await rowsOf(
    tx,
    CashRow,
    sql`with own as (
          select account_id, true as is_bank from bank_accounts where books_id = ${booksId} and is_here
          union all select id, false from accounts
            where books_id = ${booksId} and role = 'transfers' and is_here),
        -- Named, so that the database makes one pass over the ledger for it.
        within as materialized (
          select m.account_id, m.entry_id, m.date, m.amount, o.is_bank
          from movements m join own o on o.account_id = m.account_id
          where m.books_id = ${booksId} and m.date between ${from} and ${to}),
        moves as (select entry_id from within group by 1 having count(distinct account_id) > 1),
        moved as (
          select w.account_id, to_char(w.date, 'YYYY-MM') as month, w.amount, v.entry_id is not null as is_own
          from within w left join moves v on v.entry_id = w.entry_id
          where w.is_bank
          union all
          select d.account_id, null, d.amount, false
          from ${accountDays(booksId)} d join own o on o.account_id = d.account_id and o.is_bank
          where d.date < ${from})
        select account_id as "accountId", month,
          coalesce(sum(amount) filter (where not is_own and amount > 0), 0)::bigint as "in",
          coalesce(sum(amount) filter (where not is_own and amount < 0), 0)::bigint as out,
          coalesce(sum(amount) filter (where is_own), 0)::bigint as moved
        from moved group by 1, 2`,
  );
  const ids = [...new Set(rows.map(({ accountId }) => accountId))];
  return {
    months,
    accounts: ids.map((accountId) => {
      const own = rows.filter((row) => row.accountId === accountId);
      const before = own.find(({ month }) => month === null);
      return {
        accountId,
        opening: before ? before.in + before.out + before.moved : 0,
        months: months.map((wanted) => {
          const row = own.find(({ month }) => month === wanted);
          return { in: row?.in ?? 0, out: row?.out ?? 0, moved: row?.moved ?? 0 };
        }),
      };
    }),
    open: await openInPeriod(tx, booksId, { from, to }),
  };
}
