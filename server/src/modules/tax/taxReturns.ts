import { type TaxDraft, TaxReturn, type TaxReturns } from '@zubrell/contract/tax';
import {
  addDays,
  addMonths,
  formatLongDate,
  lastDayOf,
  monthOf,
} from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { nextPeriod } from '@zubrell/core/tax/taxReturn';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { openInPeriod } from '../lines/openInPeriod.ts';
import { taxFigures } from './taxFigures.ts';

interface Period {
  readonly from: string;
  readonly to: string;
}

const FirstRow = z.object({ first: z.string().nullable() });

/** The returns of these books, and the period that comes next: as long as the last one, at first a quarter. */
export async function taxReturns(tx: Tx, booksId: BooksId, today: string): Promise<TaxReturns> {
  const returns = await filedReturns(tx, booksId);
  const [last] = returns;
  if (last?.kind === 'filed') return { returns, next: nextPeriod(last) };
  if (last) {
    const from = addDays(last.to, 1);
    return { returns, next: { from, to: quarterOf(from).to } };
  }
  const isTaxed = sql`e.books_id = ${booksId} and not e.is_void and exists (
    select from legs g
    where g.books_id = e.books_id and g.entry_id = e.id and g.tax_side is not null)`;
  const [row] = await rowsOf(
    tx,
    FirstRow,
    // The bank's day of what came late is before its own: the first of all is one of these.
    sql`select least(
          (select e.date from entries e where ${isTaxed} order by e.date limit 1),
          (select min(e.bank_date) from entries e where ${isTaxed} and e.bank_date is not null)) as first`,
  );
  return { returns, next: quarterOf(row?.first ?? today) };
}

async function filedReturns(tx: Tx, booksId: BooksId): Promise<TaxReturn[]> {
  return rowsOf(
    tx,
    TaxReturn,
    sql`select r.id, r.kind, r.from_date as "from", r.to_date as "to", r.figures, r.note,
          r.entry_id as "entryId", coalesce(u.name, '') as "filedBy",
          to_json(r.filed_at) #>> '{}' as "filedAt", r.step
        from tax_returns r left join users u on u.id = r.filed_by
        where r.books_id = ${booksId} and r.is_here order by r.to_date desc`,
  );
}

/** @example quarterOf('2026-02-11') // { from: '2026-01-01', to: '2026-03-31' } */
function quarterOf(date: string): Period {
  const month = Number(date.slice(5, 7));
  const from = addMonths(`${monthOf(date)}-01`, -((month - 1) % 3));
  return { from, to: lastDayOf(monthOf(addMonths(from, 2))) };
}

/**
 * The next return as it would be filed now.
 *
 * @throws {ZubrellError} REPORT_TURNED, TAX_RETURN_GAP
 */
export async function taxDraft(tx: Tx, booksId: BooksId, period: Period): Promise<TaxDraft> {
  await checkPeriod(tx, booksId, period);
  const open = await openInPeriod(tx, booksId, period);
  return { ...period, ...(await taxFigures(tx, booksId, period)), open };
}

const ReportedRow = z.object({ reported: z.string().nullable() });

/**
 * Refuses a period that doesn't follow what was reported.
 *
 * @throws {ZubrellError} REPORT_TURNED, TAX_RETURN_GAP
 */
export async function checkPeriod(tx: Tx, booksId: BooksId, { from, to }: Period): Promise<void> {
  if (from > to) fail('REPORT_TURNED', { from: formatLongDate(from), to: formatLongDate(to) });
  const reported = await reportedTo(tx, booksId);
  if (reported === null) return;
  const next = addDays(reported, 1);
  if (from !== next) {
    fail('TAX_RETURN_GAP', { reported: formatLongDate(reported), from: formatLongDate(next) });
  }
}

/** The last day of the newest period whose tax was reported; null where none was. */
export async function reportedTo(tx: Tx, booksId: BooksId): Promise<string | null> {
  const [row] = await rowsOf(
    tx,
    ReportedRow,
    sql`select max(to_date) as reported from tax_returns where books_id = ${booksId} and is_here`,
  );
  return row?.reported ?? null;
}
