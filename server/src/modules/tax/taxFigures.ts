import {
  TaxFigures,
  TaxLeg,
  type TaxLegs,
  type TaxLegsQuery,
  type TaxRow,
} from '@zubrell/contract/tax';
import type { AccountId, BooksId, TaxCodeId } from '@zubrell/core/ids';
import { type TaxSide, taxSides } from '@zubrell/core/ledger/kinds';
import { sumOf } from '@zubrell/core/money/minor';
import { taxDue } from '@zubrell/core/tax/taxReturn';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { cursorOf, placeOf } from '../../db/cursor.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { lineBehind } from '../../db/lineBehind.ts';
import { idRow } from '../../db/rows.ts';

/** A period that is asked for: first and last day. */
interface Period {
  readonly from: string;
  readonly to: string;
}

/**
 * The legs that a return up to a day would count, as `leg_id` and `sign`: 1 for what is in force then and was not yet
 * reported, −1 for what was reported and isn't in force any more.
 *
 * @param of a condition on legs `g`
 */
export function unreported(booksId: BooksId, to: string, of: SQL = sql`true`): SQL {
  return sql`
    select coalesce(now.leg_id, before.leg_id) as leg_id,
      (coalesce(now.times, 0) - coalesce(before.times, 0))::int as sign
    from (
      select g.leg_id, sum(case when g.turned = 0 then 1 else g.turned end) as times
      from movements g
      where g.books_id = ${booksId} and g.date <= ${to} and g.tax_side is not null and ${of}
      group by 1) now
    full join (
      select p.leg_id, sum(p.sign) as times from tax_return_parts p
      join tax_returns r on r.books_id = p.books_id and r.id = p.return_id and r.is_here
      join legs g on g.books_id = p.books_id and g.id = p.leg_id and ${of}
      where p.books_id = ${booksId} group by 1) before on before.leg_id = now.leg_id
    where coalesce(now.times, 0) <> coalesce(before.times, 0)`;
}

/** The legs that a return counted. */
const counted = (booksId: BooksId, returnId: string): SQL =>
  sql`select leg_id, sign from tax_return_parts where books_id = ${booksId} and return_id = ${returnId}`;

/** Stands for no tax code in `moved_days`. */
const NO_CODE = '00000000-0000-0000-0000-000000000000';

const MovedRow = z.object({
  accountId: idRow<AccountId>(),
  isTax: z.boolean(),
  taxCodeId: idRow<TaxCodeId>().nullable(),
  side: z.enum(taxSides).nullable(),
  /** Dated before the period. */
  isEarly: z.boolean(),
  amount: z.int(),
  taxable: z.int(),
  count: z.int(),
});
type MovedRow = z.infer<typeof MovedRow>;

const ReportedRow = z.object({ amount: z.int() });
const FiledRow = z.object({ figures: TaxFigures });
const CodeRow = z.object({ id: idRow<TaxCodeId>() });

/**
 * What a return for a period comes to now, code by code: all that was posted with tax up to its end, without what the
 * returns before have filed. What they filed is taken as it was filed.
 */
export async function taxFigures(tx: Tx, booksId: BooksId, period: Period): Promise<TaxFigures> {
  const codeAccounts = sql`array(select input_account_id from tax_codes where books_id = ${booksId}
    union select output_account_id from tax_codes where books_id = ${booksId}
    union select id from accounts where books_id = ${booksId} and role in ('inputTax', 'outputTax'))`;
  const isEarly = sql`date < ${period.from}`;
  const isEarlyByBank = sql`bank_date < ${period.from}`;
  // By days on which it counts; what came late belongs to the bank's, which few movements have.
  const moved = await rowsOf(
    tx,
    MovedRow,
    sql`with late as materialized (
          select m.account_id, m.role = 'tax' as is_tax, m.tax_code_id, m.tax_side, m.date, m.bank_date,
            m.amount, m.taxable
          from movements m
          where m.books_id = ${booksId} and m.date <= ${period.to} and m.entry_id = any(array(
            select id from entries where books_id = ${booksId} and bank_date is not null
            union select entry_id from late_turns where books_id = ${booksId})))
        select m.account_id as "accountId", m.is_tax as "isTax", m.tax_code_id as "taxCodeId",
          m.tax_side as side, m.is_early as "isEarly", sum(m.amount)::bigint as amount,
          coalesce(sum(m.taxable), 0)::bigint as taxable, sum(m.count)::int as count
        from (
          select coalesce(a.merged_into, a.id) as account_id, d.is_tax,
            nullif(d.tax_code_id, ${NO_CODE}) as tax_code_id, nullif(d.tax_side, '') as tax_side,
            ${isEarly} as is_early, d.amount, d.taxable, d.count
          from moved_days d
          join accounts a on a.books_id = d.books_id and a.id = d.account_id
          where d.books_id = ${booksId} and d.date <= ${period.to} and d.count > 0
          union all
          select account_id, is_tax, tax_code_id, tax_side, ${isEarly}, -amount, -taxable, -1
          from late where (${isEarly}) <> (${isEarlyByBank})
          union all
          select account_id, is_tax, tax_code_id, tax_side, ${isEarlyByBank}, amount, taxable, 1
          from late where (${isEarly}) <> (${isEarlyByBank})) m
        join accounts s on s.books_id = ${booksId} and s.id = m.account_id
        where m.tax_side is not null or m.account_id = any(${codeAccounts})
        group by s.code, 1, 2, 3, 4, 5 order by s.code`,
  );
  const filed = await rowsOf(
    tx,
    FiledRow,
    sql`select figures from tax_returns where books_id = ${booksId} and is_here`,
  );
  const codes = await rowsOf(
    tx,
    CodeRow,
    sql`select id from tax_codes where books_id = ${booksId} order by position, name`,
  );
  const before = filed.flatMap(({ figures }) => figures.rows);
  const rows = codes.flatMap(({ id }) =>
    (['output', 'input'] as const).flatMap((side) => rowOf(moved, before, id, side) ?? []),
  );
  // By the legs that were counted, not by the figures that were filed: these are in the rows already.
  const [reported] = await rowsOf(
    tx,
    ReportedRow,
    sql`select coalesce(sum(counted), 0)::bigint as amount from tax_returns
        where books_id = ${booksId} and is_here`,
  );
  return { rows, agreement: agreementOf(moved, rows, reported?.amount ?? 0) };
}

/** What a code comes to on a side; null where nothing was posted or filed with it. */
function rowOf(
  moved: readonly MovedRow[],
  filed: readonly TaxRow[],
  taxCodeId: TaxCodeId,
  side: TaxSide,
): TaxRow | null {
  const own = moved.filter((row) => row.taxCodeId === taxCodeId && row.side === side);
  const before = filed.filter((row) => row.taxCodeId === taxCodeId && row.side === side);
  const sign = side === 'output' ? -1 : 1;
  const sum = <Row>(all: readonly Row[], of: (row: Row) => number) =>
    all.reduce((total, row) => total + of(row), 0);
  const figures = (rows: readonly MovedRow[]) => ({
    net: sign * sum(rows, ({ taxable }) => taxable) - sum(before, ({ net }) => net),
    tax:
      sign * sum(rows, ({ isTax, amount }) => (isTax ? amount : 0)) - sum(before, ({ tax }) => tax),
  });
  const all = figures(own);
  // All that was filed is of periods before this one.
  const late = figures(own.filter(({ isEarly }) => isEarly));
  const count = sum(own, (row) => (row.isEarly ? 0 : row.count));
  const isNothing =
    all.net === 0 && all.tax === 0 && late.net === 0 && late.tax === 0 && count === 0;
  return isNothing ? null : { taxCodeId, side, ...plain(all), count, late: plain(late) };
}

/** Without negative zeros. */
const plain = ({ net, tax }: { readonly net: number; readonly tax: number }) => ({
  net: net === 0 ? 0 : net,
  tax: tax === 0 ? 0 : tax,
});

/** What the tax accounts say at the end of a period, against what was and is reported. */
function agreementOf(
  moved: readonly MovedRow[],
  rows: readonly TaxRow[],
  earlier: number,
): TaxFigures['agreement'] {
  // Bases of other accounts are among what moved; a tax account has tax on it, or moves without any code.
  const ids = new Set(
    moved.filter(({ isTax, side }) => isTax || side === null).map(({ accountId }) => accountId),
  );
  const onThem = moved.filter(({ accountId }) => ids.has(accountId));
  const sum = (all: readonly { readonly amount: number }[]) => sumOf(all);
  const { due } = taxDue(rows);
  return {
    balance: sum(onThem),
    own: due === 0 ? 0 : -due,
    earlier,
    others: sum(onThem.filter(({ isTax }) => !isTax)),
    accounts: [...ids].map((accountId) => ({
      accountId,
      balance: sum(onThem.filter((row) => row.accountId === accountId)),
    })),
  };
}

/** The day that decides to which period entry `e` belongs: the bank's, where it came late. */
const day = sql`coalesce(e.bank_date, e.date)`;
/** Signs as a return has them: positive for what was sold, and for what was bought. */
const amountOf = (column: SQL) =>
  sql`x.sign * case when g.tax_side = 'output' then -1 else 1 end * ${column}`;
const net = amountOf(sql`coalesce(g.taxable, 0)`);
const tax = amountOf(sql`case when g.role = 'tax' then g.amount else 0 end`);

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
  const of = sql`g.tax_code_id = ${taxCodeId} and g.tax_side = ${side}`;
  const source = returnId === undefined ? unreported(booksId, to, of) : counted(booksId, returnId);
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
