import { type GroupedTotals, GroupTotal } from '@zubrell/contract/reports';
import type { BooksId } from '@zubrell/core/ids';
import type { Grouping } from '@zubrell/core/reports/grouped';
import { type SQL, sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { openInPeriod } from '../lines/openInPeriod.ts';
import { type Period, refuseTurned } from './accountTotals.ts';

const keys: Readonly<Record<Grouping, SQL>> = {
  payee: sql`payee_id`,
  costCentre: sql`cost_centre_id`,
  job: sql`job_id`,
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
  const sumOf = (sign: SQL, section: string) =>
    sql`${sign} * coalesce(sum(amount) filter (where section = ${section}), 0)`;
  const grouped = (sign: SQL, rows: SQL, where: SQL) => sql`
    select ${keys[by]} as key, ${sumOf(sign, 'i')} as income, ${sumOf(sign, 'c')} as costs,
      ${sumOf(sign, 'o')} as other
    from ${rows} where role = 'base' and ${where} group by 1`;
  const isWithin = sql`books_id = ${booksId} and date between ${from} and ${to}`;
  const legs = sql`legs join sections on id_of = shown_account_id`;
  // By the day of each leg, without looking at entries: the few that don't count on their day are taken off, and what
  // counts on a later day is added. Which payee another was merged into is asked once a payee.
  const totals = await rowsOf(
    tx,
    GroupTotal,
    sql`with sections as materialized (
          select id as id_of, case type when 'income' then 'i' when 'expense' then 'c' else 'o' end as section
          from accounts where books_id = ${booksId}),
        t as materialized (
          ${grouped(sql`1`, legs, isWithin)}
          union all
          ${grouped(
            sql`-1`,
            legs,
            sql`books_id = ${booksId} and entry_id = any(array(
              select id from entries where ${isWithin} and not is_counted))`,
          )}
          union all
          ${grouped(sql`1`, sql`movements join sections on id_of = account_id`, sql`${isWithin} and turned <> 0`)})
        select coalesce(p.merged_into, t.key) as id, -sum(t.income)::bigint as income,
          sum(t.costs)::bigint as costs, sum(t.other)::bigint as other
        from t
        left join payees p on p.books_id = ${booksId} and p.id = t.key
        group by 1`,
  );
  return { totals, open: await openInPeriod(tx, booksId, { from, to }) };
}
