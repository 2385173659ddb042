import type { AccountTotals } from '@zubrell/contract/reports';
import { formatLongDate, monthOf, monthsBetween } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { accountDays } from '../../db/accountDays.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
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
export interface Period {
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
        from ${accountDays(booksId)} m where date <= ${to} group by 1, 2`,
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

export function refuseTurned({ from, to }: Period): void {
  if (from > to) {
    fail('REPORT_TURNED', { from: formatLongDate(from), to: formatLongDate(to) });
  }
}

export function monthsOf({ from, to }: Period): string[] {
  refuseTurned({ from, to });
  const months = monthsBetween(monthOf(from), monthOf(to));
  if (months.length > MOST_MONTHS) fail('REPORT_LONG', { most: MOST_MONTHS });
  return months;
}
