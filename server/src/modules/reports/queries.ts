import { type AccountTotals, FigureLeg, type FigureLegs } from '@zubrell/contract/reports';
import { formatLongDate, monthOf, monthsBetween } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { cursorOf, placeOf } from '../../db/cursor.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { lineBehind } from '../../db/lineBehind.ts';
import { idRow } from '../../db/rows.ts';
import { openInPeriod } from '../lines/openInPeriod.ts';

const MovedRow = z.object({
  accountId: idRow<AccountId>(),
  /** Null for all before the period. */
  month: z.string().nullable(),
  amount: z.int(),
});

/** So many months fit on a report. */
const MOST_MONTHS = 60;

/** A period that is asked for: first and last day. */
interface Period {
  readonly from: string;
  readonly to: string;
}

/** What happened on every account in a period, month by month. @throws {ZubrellError} REPORT_TURNED, REPORT_LONG */
export async function accountTotals(
  tx: Tx,
  booksId: BooksId,
  { from, to }: Period,
): Promise<AccountTotals> {
  const months = monthsOf({ from, to });
  const rows = await rowsOf(
    tx,
    MovedRow,
    sql`select account_id as "accountId", case when date >= ${from} then to_char(date, 'YYYY-MM') end as month,
          sum(amount)::bigint as amount
        from movements where books_id = ${booksId} and date <= ${to}
        group by 1, 2`,
  );
  const byAccount = new Map<string, { opening: number; months: number[] }>();
  for (const { accountId, month, amount } of rows) {
    const total = byAccount.get(accountId) ?? { opening: 0, months: months.map(() => 0) };
    byAccount.set(accountId, total);
    if (month === null) total.opening += amount;
    else total.months[months.indexOf(month)] = amount;
  }
  return {
    from,
    to,
    months,
    totals: [...byAccount].map(([accountId, total]) => ({ accountId, ...total })),
    open: await openInPeriod(tx, booksId, { from, to }),
  };
}

function refuseTurned({ from, to }: Period): void {
  if (from > to) {
    fail('REPORT_TURNED', { from: formatLongDate(from), to: formatLongDate(to) });
  }
}

function monthsOf({ from, to }: Period): string[] {
  refuseTurned({ from, to });
  const months = monthsBetween(monthOf(from), monthOf(to));
  if (months.length > MOST_MONTHS) fail('REPORT_LONG', { most: MOST_MONTHS });
  return months;
}

const PAGE = 100;
const LegRow = FigureLeg.extend({ rank: z.int(), count: z.int(), total: z.int() });

/**
 * What a figure of a report is made of: the legs of an account in a period, the newest first.
 *
 * @throws {ZubrellError} REPORT_TURNED
 */
export async function figureLegs(
  tx: Tx,
  booksId: BooksId,
  accountId: AccountId,
  { from, to, cursor }: Period & { readonly cursor?: string | undefined },
): Promise<FigureLegs> {
  refuseTurned({ from, to });
  const place = placeOf(cursor, 'id', 'number');
  const rows = await rowsOf(
    tx,
    LegRow,
    sql`with own as (
          select m.leg_id, m.entry_id, m.date, m.amount, m.step,
            row_number() over (order by m.date desc, m.step desc, m.leg_id, m.turned) as rank,
            count(*) over ()::int as count, sum(m.amount) over ()::bigint as total
          from movements m
          where m.books_id = ${booksId} and m.account_id = ${accountId}
            and m.date between ${from} and ${to}),
        shown as (
          select * from own where rank > ${place === null ? 0 : Number(place[1])}
          order by rank limit ${PAGE})
        select o.leg_id as "legId", o.entry_id as "entryId", o.date, e.payee_id as "payeeId",
          coalesce(src.description, e.note, '') as text, src.id as "lineId", o.amount,
          o.rank::int as rank, o.count, o.total
        from shown o
        join entries e on e.books_id = ${booksId} and e.id = o.entry_id
        left join lateral (${lineBehind(sql`${booksId}`, sql`o.entry_id`)}) src on true
        order by o.rank`,
  );
  const [first] = rows;
  const last = rows.at(-1);
  return {
    items: rows.map(({ rank: _, count: __, total: ___, ...leg }) => leg),
    next: last && last.rank < last.count ? cursorOf(last.legId, last.rank) : null,
    count: first?.count ?? 0,
    amount: first?.total ?? 0,
  };
}
