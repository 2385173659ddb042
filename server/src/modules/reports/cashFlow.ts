import type { CashFlow } from '@zubrell/contract/reports';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
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
    sql`with moved as (
          select m.account_id, case when m.date >= ${from} then to_char(m.date, 'YYYY-MM') end as month,
            m.amount, exists (
              select from legs o
              join accounts oa on oa.books_id = o.books_id and oa.id = o.account_id
              where o.books_id = m.books_id and o.entry_id = m.entry_id and o.account_id <> m.account_id
                and (o.role = 'bank' or oa.role = 'transfers')) as is_own
          from movements m
          join bank_accounts b on b.books_id = m.books_id and b.account_id = m.account_id and b.is_here
          where m.books_id = ${booksId} and m.date <= ${to})
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
