import { type LineMates, MateLine } from '@zubrell/contract/desk';
import { daysBetween } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import { groupBy } from '@zubrell/core/groupBy';
import type { BooksId, LineId } from '@zubrell/core/ids';
import { wordingLikeness } from '@zubrell/core/text/likeness';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BooksTx, countRows, rowsOf, type Tx } from '../../db/database.ts';
import { isWeighed } from '../decisions/isWeighed.ts';
import { isOpenLine, joinLiveDecision } from './lineState.ts';

/** A copy is dated so many days from its original at most, a correction so many from the error. */
const COPY_DAYS = 31;
const CORRECTION_DAYS = 62;
/** So many are offered. */
const OFFERED = 8;

/** A line that may belong together with another. */
const MateRow = MateLine.extend({
  /** The other line, with its date and wording. */
  of: z.string(),
  ofDate: z.string(),
  ofDescription: z.string(),
});
type MateRow = z.infer<typeof MateRow>;

/** What a line may be a second copy of, and what may correct it. @throws {ZubrellError} LINE_UNKNOWN */
export async function lineMates(tx: Tx, booksId: BooksId, lineId: LineId): Promise<LineMates> {
  const line = await countRows(
    tx,
    sql`select from lines where books_id = ${booksId} and id = ${lineId} and is_here`,
  );
  if (line === 0) fail('LINE_UNKNOWN');
  const originals = (await originalsOf(tx, booksId, [lineId])).get(lineId) ?? [];
  const corrects = sql`l.amount = -own.amount and ${isOpenLine}`;
  const corrections = await matesOf({ tx, booksId }, [lineId], CORRECTION_DAYS, corrects);
  return { originals: shown(originals), corrections: shown(corrections) };
}

const shown = (rows: readonly MateRow[]): MateLine[] =>
  rows.slice(0, OFFERED).map(({ id, date, amount, description, decision }) => ({
    id,
    date,
    amount,
    description,
    decision,
  }));

/**
 * What each of some lines may be a second copy of, likely ones first: other lines of the same bank account and
 * amount that weigh.
 */
export async function originalsOf(
  tx: Tx,
  booksId: BooksId,
  lineIds: readonly LineId[],
): Promise<ReadonlyMap<string, readonly MateRow[]>> {
  const isOriginal = sql`l.amount = own.amount and ${isWeighed}
    and l.id <> all(${sql.param(lineIds)}::uuid[])`;
  return groupBy(await matesOf({ tx, booksId }, lineIds, COPY_DAYS, isOriginal), ({ of }) => of);
}

/** Lines `l` some days around lines `own` of which a condition is true, likely ones first. */
async function matesOf(
  { tx, booksId }: BooksTx,
  lineIds: readonly LineId[],
  days: number,
  condition: SQL,
): Promise<readonly MateRow[]> {
  const rows = await rowsOf(
    tx,
    MateRow,
    sql`select own.id as of, own.date as "ofDate", own.description as "ofDescription", l.id, l.date,
          l.amount, l.description, d.kind as decision
        from lines own
        join lines l on l.books_id = own.books_id and l.bank_account_id = own.bank_account_id
          and l.id <> own.id and l.is_here
          and l.date between own.date - ${days}::int and own.date + ${days}::int
        ${joinLiveDecision}
        left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        where own.books_id = ${booksId} and own.id = any(${sql.param(lineIds)}::uuid[])
          and ${condition}`,
  );
  const likely = rows.map((row) => ({
    row,
    likeness: wordingLikeness(row.description, row.ofDescription),
    days: Math.abs(daysBetween(row.date, row.ofDate)),
  }));
  return likely.sort((a, b) => b.likeness - a.likeness || a.days - b.days).map(({ row }) => row);
}
