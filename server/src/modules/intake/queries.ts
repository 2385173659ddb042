import {
  Batch,
  BatchLine,
  type BatchLines,
  BatchSheet,
  KeptLayout,
} from '@zubrell/contract/intake';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BankAccountId, BatchId, BooksId } from '@zubrell/core/ids';
import type { SourceLine } from '@zubrell/core/intake/matchSources';
import { daysApart } from '@zubrell/core/intake/matchSources';
import type { KnownLines } from '@zubrell/core/intake/sightStatement';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { cursorOf, placeOf } from '../../db/cursor.ts';
import { type BooksTx, rowsOf, type Tx } from '../../db/database.ts';
import { Refusal, refusalWords } from '../../db/refusal.ts';
import { isWeighed } from '../decisions/isWeighed.ts';
import { isTwice, joinLiveDecision } from '../lines/lineState.ts';
import { balanceChains } from '../proof/chain.ts';
import { joinAsSeen } from './sightedFacts.ts';

/** A line as it is compared with those of a file. */
export const SourceRow = z.object({
  date: z.string(),
  amount: z.int(),
  description: z.string(),
  reference: z.string().nullable(),
  bankId: z.string().nullable(),
  isPending: z.boolean(),
}) satisfies z.ZodType<SourceLine>;

/**
 * What is known of a bank account for a statement: its lines between two dates and a little around them,
 * and its balance at the end of the closing day.
 */
export async function knownLines(
  { tx, booksId }: BooksTx,
  bankAccountId: BankAccountId,
  {
    from,
    to,
    closingDate,
  }: { readonly from: string; readonly to: string; readonly closingDate: string },
): Promise<KnownLines> {
  const lines = await rowsOf(
    tx,
    SourceRow,
    sql`select date, amount, description, reference, bank_id as "bankId", false as "isPending"
        from lines
        where books_id = ${booksId} and bank_account_id = ${bankAccountId} and is_here
          and date between ${addDays(from, -daysApart)} and ${addDays(to, daysApart)}
        order by date, position, id`,
  );
  return { lines, standing: await standingBalance(tx, booksId, bankAccountId, closingDate) };
}

const StandingRow = z.object({ standing: z.number().nullable() });

/**
 * The balance of a bank account at the end of a day by its opening balance and the lines here; null
 * while it has no opening balance.
 */
export async function standingBalance(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  date: string,
): Promise<number | null> {
  const [row] = await rowsOf(
    tx,
    StandingRow,
    sql`select (g.own + coalesce((
          select sum(l.amount) from lines l
          left join decision_lines dl
            on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
          left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
          where l.books_id = e.books_id and l.bank_account_id = e.opening_of and l.is_here
            and l.twice_of is null and l.date > e.date and l.date <= ${date}
            and ${isWeighed}), 0))::bigint
          as standing
        from entries e
        join legs g on g.books_id = e.books_id and g.entry_id = e.id and g.role = 'bank'
        where e.books_id = ${booksId} and e.opening_of = ${bankAccountId} and not e.is_void`,
  );
  return row?.standing ?? null;
}

const BatchRow = Batch.omit({ refusal: true }).extend({
  refusal: Refusal.nullable(),
});
type BatchRow = z.infer<typeof BatchRow>;

const columns = sql`
  b.id, b.bank_account_id as "bankAccountId", b.feed_id as "feedId", b.moved_from as "movedFrom", b.file_name as "fileName", b.status, b.format,
  b.refusal, b.problems, b.from_date as "fromDate", b.to_date as "toDate", b.closing,
  b.closing_date as "closingDate", b.line_count as "lineCount", b.new_count as "newCount",
  u.name as "createdBy", to_json(b.created_at) #>> '{}' as "createdAt",
  (select i.step_no from step_items i join steps s on s.books_id = i.books_id and s.no = i.step_no
    where i.books_id = b.books_id and i.thing_id = b.id and s.kind in ('keepBatch', 'moveBatch')
      and i.after is not null) as step`;

/** The newest batches of the books. */
export async function batchesOf(tx: Tx, booksId: BooksId): Promise<Batch[]> {
  const rows = await rowsOf(
    tx,
    BatchRow,
    sql`select ${columns} from batches b join users u on u.id = b.created_by
        where b.books_id = ${booksId} order by b.created_at desc, b.id limit 200`,
  );
  return rows.map(shown);
}

/** One batch. @throws {ZubrellError} NOT_FOUND */
export async function batchOf(tx: Tx, booksId: BooksId, batchId: BatchId): Promise<Batch> {
  const [row] = await rowsOf(
    tx,
    BatchRow,
    sql`select ${columns} from batches b join users u on u.id = b.created_by
        where b.books_id = ${booksId} and b.id = ${batchId}`,
  );
  return shown(row ?? fail('NOT_FOUND'));
}

const BatchSheetRow = BatchSheet.shape.counts.extend({ opening: z.number().nullable() });

const TurnedRow = z.object({ no: z.number(), isUndo: z.boolean() });

/** A batch opened. @throws {ZubrellError} NOT_FOUND */
export async function batchSheet(tx: Tx, booksId: BooksId, batchId: BatchId): Promise<BatchSheet> {
  const batch = await batchOf(tx, booksId, batchId);
  const [row] = await rowsOf(
    tx,
    BatchSheetRow,
    // Its lines are found first, and what others saw of them at once: else all of the books are asked for each of them.
    sql`with own as materialized (
          select coalesce(a.id, g.line_id) as id from sightings g
          left join lines a on a.books_id = g.books_id and a.id = g.apart_line_id and a.is_here
          where g.books_id = ${booksId} and g.batch_id = ${batchId}),
        others as materialized (
          select distinct g.line_id from sightings g
          join batches b on b.books_id = g.books_id and b.id = g.batch_id and b.status = 'kept'
          where g.books_id = ${booksId} and g.batch_id <> ${batchId}
            and g.line_id = any(array(select id from own))),
        seen as (
          select l.is_here, d.kind, l.id in (select line_id from others) as shared
          from lines l
          ${joinLiveDecision}
          left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
          where l.books_id = ${booksId} and l.id = any(array(select id from own)))
        select (select opening from batches where books_id = ${booksId} and id = ${batchId}),
          (count(*) filter (where is_here and kind is null))::int as open,
          (count(*) filter (where kind in ('posted', 'paired')))::int as posted,
          (count(*) filter (where kind in ('excluded', 'deleted')))::int as excluded,
          (count(*) filter (where shared))::int as shared,
          (count(*) filter (where kind is not null and not shared))::int as "ownDecided"
        from seen`,
  );
  const { opening = null, ...counts } = row ?? fail('NOT_FOUND');
  const chain = (await balanceChains(tx, booksId, batch.bankAccountId)).get(batch.bankAccountId);
  const broken = chain?.firstBreak ?? null;
  const isOwn =
    broken !== null &&
    broken.date >= (batch.fromDate ?? '') &&
    broken.date <= (batch.closingDate ?? batch.toDate ?? '');
  const [turned] = await rowsOf(
    tx,
    TurnedRow,
    sql`select coalesce(s.undoes, s.no) as no, s.undoes is not null as "isUndo"
        from step_items i join steps s on s.books_id = i.books_id and s.no = i.step_no
        where i.books_id = ${booksId} and i.thing_id = ${batchId} and i.after is null
        order by s.no desc limit 1`,
  );
  const turnedBy = batch.status === 'takenBack' ? (turned ?? null) : null;
  return { ...batch, opening, counts, turnedBy, firstBreak: isOwn ? broken : null };
}

const PAGE = 200;

/** A batch's lines in the order of the file, with what became of them. */
export async function batchLines(
  tx: Tx,
  booksId: BooksId,
  batchId: BatchId,
  cursor: string | undefined,
): Promise<BatchLines> {
  const place = placeOf(cursor, 'number', 'id');
  const items = await rowsOf(
    tx,
    BatchLine,
    sql`select o.id as "lineId", g.place, f.date, f.amount, f.description, f.reference,
          f.bank_id as "bankId", f.balance,
          case when not l.is_here then 'gone' else coalesce(d.kind, 'open') end as state,
          case when g.is_fold then jsonb_build_object(
            'date', o.date, 'amount', o.amount, 'description', o.description,
            'reference', o.reference, 'bankId', o.bank_id,
            'isHereWithout', o.is_own or seen.name is not null,
            'source', seen.name, 'place', seen.place) end as folded,
          ${isTwice} as "isDoubtful",
          a.id as "apartLineId"
        from sightings g
        join lines o on o.books_id = g.books_id and o.id = g.line_id
        left join lines a on a.books_id = g.books_id and a.id = g.apart_line_id and a.is_here
        join lines l on l.books_id = o.books_id and l.id = coalesce(a.id, o.id)
        ${joinAsSeen}
        left join lateral (
          select t.file_name as name, seen.place from sightings seen
          join batches t on t.books_id = seen.books_id and t.id = seen.batch_id
          where seen.books_id = g.books_id and seen.line_id = g.line_id
            and seen.batch_id <> g.batch_id and t.status = 'kept'
          order by seen.is_fold, t.created_at limit 1) seen on true
        ${joinLiveDecision}
        left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        where g.books_id = ${booksId} and g.batch_id = ${batchId}
          and ${place === null ? sql`true` : sql`(g.place, o.id) > (${place[0]}::int, ${place[1]}::uuid)`}
        order by g.place, o.id limit ${PAGE}`,
  );
  const last = items.at(-1);
  const isFull = items.length === PAGE;
  return { items, next: last && isFull ? cursorOf(last.place, last.lineId) : null };
}

/** How tables are read for the books' bank accounts, the most used first. */
export async function layoutsOf(tx: Tx, booksId: BooksId): Promise<KeptLayout[]> {
  return rowsOf(
    tx,
    KeptLayout,
    sql`select bank_account_id as "bankAccountId", shape, choices, times from layouts
        where books_id = ${booksId} order by times desc, shape`,
  );
}

function shown(row: BatchRow): Batch {
  const { refusal } = row;
  return {
    ...row,
    refusal: refusal && {
      code: refusal.code,
      message: refusalWords(refusal),
    },
  };
}
