import {
  TaxAgreement,
  type TaxFigures,
  TaxLeg,
  type TaxLegs,
  type TaxLegsQuery,
  TaxRow,
} from '@zubrell/contract/tax';
import type { BooksId, TaxCodeId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { cursorOf, placeOf } from '../../db/cursor.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { lineBehind } from '../../db/lineBehind.ts';

/** A period that is asked for: first and last day. */
interface Period {
  readonly from: string;
  readonly to: string;
}

/**
 * The legs that a return up to a day would count, as `leg_id` and `sign`: 1 for what is in force then and was not yet
 * reported, −1 for what was reported and isn't in force any more.
 */
export function unreported(booksId: BooksId, to: string): SQL {
  return sql`
    select coalesce(now.leg_id, before.leg_id) as leg_id,
      (coalesce(now.times, 0) - coalesce(before.times, 0))::int as sign
    from (
      select m.leg_id, sum(case when m.turned = 0 then 1 else m.turned end) as times
      from movements m join legs g on g.books_id = m.books_id and g.id = m.leg_id
      where m.books_id = ${booksId} and m.date <= ${to} and g.tax_side is not null
      group by 1) now
    full join (
      select p.leg_id, sum(p.sign) as times from tax_return_parts p
      join tax_returns r on r.books_id = p.books_id and r.id = p.return_id and r.is_here
      where p.books_id = ${booksId} group by 1) before on before.leg_id = now.leg_id
    where coalesce(now.times, 0) <> coalesce(before.times, 0)`;
}

/** The legs that a return counted. */
const counted = (booksId: BooksId, returnId: string): SQL =>
  sql`select leg_id, sign from tax_return_parts where books_id = ${booksId} and return_id = ${returnId}`;

/** The day that decides to which period entry `e` belongs: the bank's, where it came late. */
const day = sql`coalesce(e.bank_date, e.date)`;
/** Signs as a return has them: positive for what was sold, and for what was bought. */
const amountOf = (column: SQL) =>
  sql`x.sign * case when g.tax_side = 'output' then -1 else 1 end * ${column}`;
const net = amountOf(sql`coalesce(g.taxable, 0)`);
const tax = amountOf(sql`case when g.role = 'tax' then g.amount else 0 end`);

/** What a return for a period comes to now, code by code. */
export async function taxFigures(tx: Tx, booksId: BooksId, period: Period): Promise<TaxFigures> {
  const isLate = sql`(${day} < ${period.from} or x.sign < 0)`;
  const rows = await rowsOf(
    tx,
    TaxRow,
    sql`select g.tax_code_id as "taxCodeId", g.tax_side as side, sum(${net})::bigint as net,
          sum(${tax})::bigint as tax, count(distinct e.id)::int as count,
          json_build_object(
            'net', coalesce(sum(${net}) filter (where ${isLate}), 0),
            'tax', coalesce(sum(${tax}) filter (where ${isLate}), 0),
            'count', count(distinct e.id) filter (where ${isLate})) as late
        from (${unreported(booksId, period.to)}) x
        join legs g on g.books_id = ${booksId} and g.id = x.leg_id
        join entries e on e.books_id = g.books_id and e.id = g.entry_id
        join tax_codes t on t.books_id = g.books_id and t.id = g.tax_code_id
        group by t.position, t.name, 1, 2 order by t.position, t.name, 2 desc`,
  );
  return { rows, agreement: await taxAgreement(tx, booksId, rows, period.to) };
}

const BalanceRow = TaxAgreement.shape.accounts.element.extend({ others: z.int() });
const EarlierRow = z.object({ earlier: z.int() });

/**
 * The tax accounts at the end of a period. What was filed before is taken as it was filed, so that a leg that was
 * changed since by other ways than an entry of its own would show.
 */
async function taxAgreement(
  tx: Tx,
  booksId: BooksId,
  rows: readonly TaxRow[],
  to: string,
): Promise<TaxFigures['agreement']> {
  const accounts = await rowsOf(
    tx,
    BalanceRow,
    sql`with tax_accounts as (
          select input_account_id as id from tax_codes where books_id = ${booksId}
          union select output_account_id from tax_codes where books_id = ${booksId}
          union select account_id from legs where books_id = ${booksId} and tax_side is not null and role = 'tax')
        select a.id as "accountId", coalesce(sum(m.amount), 0)::bigint as balance,
          coalesce(sum(m.amount) filter (where g.role <> 'tax'), 0)::bigint as others
        from accounts a
        left join movements m on m.books_id = a.books_id and m.account_id = a.id and m.date <= ${to}
        left join legs g on g.books_id = m.books_id and g.id = m.leg_id
        where a.books_id = ${booksId} and a.id in (select id from tax_accounts)
        group by a.id, a.code order by a.code`,
  );
  const [filed] = await rowsOf(
    tx,
    EarlierRow,
    sql`select coalesce(sum((figures -> 'agreement' ->> 'own')::bigint), 0)::bigint as earlier
        from tax_returns where books_id = ${booksId} and is_here`,
  );
  const own = rows.reduce((sum, row) => sum + (row.side === 'input' ? row.tax : -row.tax), 0);
  const sum = (of: (row: (typeof accounts)[number]) => number) =>
    accounts.reduce((total, row) => total + of(row), 0);
  return {
    balance: sum(({ balance }) => balance),
    own: own === 0 ? 0 : own,
    earlier: filed?.earlier ?? 0,
    others: sum(({ others }) => others),
    accounts: accounts.map(({ accountId, balance }) => ({ accountId, balance })),
  };
}

const PAGE = 100;
const LegRow = TaxLeg.extend({ rank: z.int(), count: z.int() });

/** What a tax code's figures on one side are made of, the newest first. */
export async function taxLegs(
  tx: Tx,
  booksId: BooksId,
  taxCodeId: TaxCodeId,
  { returnId, from, to, side, cursor }: TaxLegsQuery,
): Promise<TaxLegs> {
  const place = placeOf(cursor, 'id', 'number');
  const source = returnId === undefined ? unreported(booksId, to) : counted(booksId, returnId);
  const rows = await rowsOf(
    tx,
    LegRow,
    sql`with own as (
          select g.id as "legId", g.entry_id as "entryId", g.account_id as "accountId", ${day} as date,
            coalesce(q.name, p.name) as payee, coalesce(src.description, e.note, '') as text,
            (${net})::bigint as net, (${tax})::bigint as tax, ${day} < ${from} as "isLate",
            x.sign < 0 as "isTakenBack",
            (row_number() over (order by ${day} desc, e.step desc, g.position, g.id))::int as rank,
            (count(*) over ())::int as count
          from (${source}) x
          join legs g on g.books_id = ${booksId} and g.id = x.leg_id
          join entries e on e.books_id = g.books_id and e.id = g.entry_id
          left join payees p on p.books_id = e.books_id and p.id = e.payee_id
          left join payees q on q.books_id = p.books_id and q.id = p.merged_into
          left join lateral (${lineBehind(sql`e.books_id`, sql`e.id`)}) src on true
          where g.tax_code_id = ${taxCodeId} and g.tax_side = ${side})
        select * from own where rank > ${place === null ? 0 : Number(place[1])}
        order by rank limit ${PAGE}`,
  );
  const last = rows.at(-1);
  return {
    items: rows.map(({ rank: _, count: __, ...leg }) => leg),
    next: last && last.rank < last.count ? cursorOf(last.legId, last.rank) : null,
    count: rows[0]?.count ?? 0,
  };
}
