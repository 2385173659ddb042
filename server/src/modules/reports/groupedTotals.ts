import { type GroupedTotals, GroupTotal } from '@zubrell/contract/reports';
import type { BooksId } from '@zubrell/core/ids';
import type { Grouping } from '@zubrell/core/reports/grouped';
import { type SQL, sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { openInPeriod } from '../lines/openInPeriod.ts';
import { type Period, refuseTurned } from './accountTotals.ts';

const keys: Readonly<Record<Grouping, SQL>> = {
  payee: sql`m.payee_id`,
  costCentre: sql`m.cost_centre_id`,
  job: sql`m.job_id`,
};

/**
 * Income, costs and the rest of what was coded in a period, by payee, cost centre or job.
 *
 * @throws {ZubrellError} REPORT_TURNED
 */
export async function groupedTotals(
  tx: Tx,
  booksId: BooksId,
  { from, to, by }: Period & { readonly by: Grouping },
): Promise<GroupedTotals> {
  refuseTurned({ from, to });
  const sumOf = (condition: SQL, sign: SQL) =>
    sql`coalesce(sum(${sign} * m.amount) filter (where ${condition}), 0)`;
  // Which payee another was merged into is asked once a payee: there are far more movements.
  const totals = await rowsOf(
    tx,
    GroupTotal,
    sql`with t as materialized (
          select ${keys[by]} as key, ${sumOf(sql`a.type = 'income'`, sql`-1`)} as income,
            ${sumOf(sql`a.type = 'expense'`, sql`1`)} as costs,
            ${sumOf(sql`a.type not in ('income', 'expense')`, sql`1`)} as other
          from movements m
          join accounts a on a.books_id = m.books_id and a.id = m.account_id
          where m.books_id = ${booksId} and m.date between ${from} and ${to} and m.role = 'base'
          group by 1)
        select coalesce(p.merged_into, t.key) as id, sum(t.income)::bigint as income,
          sum(t.costs)::bigint as costs, sum(t.other)::bigint as other
        from t
        left join payees p on p.books_id = ${booksId} and p.id = t.key
        group by 1`,
  );
  return { totals, open: await openInPeriod(tx, booksId, { from, to }) };
}
