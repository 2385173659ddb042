import type { Batch } from '@zubrell/contract/intake';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { type ErrorCode, type ErrorParams, fail, messageOf } from '@zubrell/core/errors';
import type { SourceLine } from '@zubrell/core/intake/matchSources';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';

/** A line of a bank account with what tells it from others. */
export type KnownLine = SourceLine & { readonly id: string; readonly isHere: boolean };

/** Dates of one payment may differ by so many days between sources. */
const AROUND = 3;

/**
 * The lines of a bank account between two dates and a little around them, also those of batches
 * taken back.
 */
export async function knownLines(
  tx: Tx,
  booksId: string,
  bankAccountId: string,
  from: string,
  to: string,
): Promise<KnownLine[]> {
  return rowsOf(
    tx,
    sql`select id, is_here as "isHere", date, amount, description, reference,
          bank_id as "bankId", false as "isPending"
        from lines
        where books_id = ${booksId} and bank_account_id = ${bankAccountId}
          and date between ${addDays(from, -AROUND)} and ${addDays(to, AROUND)}
        order by is_here desc, date, position, id`,
  );
}

/**
 * The balance of a bank account at the end of a day by its opening balance and the lines here; null
 * while it has no opening balance.
 */
export async function standingBalance(
  tx: Tx,
  booksId: string,
  bankAccountId: string,
  date: string,
): Promise<number | null> {
  const [row] = await rowsOf<{ standing: number | null }>(
    tx,
    sql`select (g.amount + coalesce((
          select sum(l.amount) from lines l
          left join decision_lines dl
            on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
          left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
          where l.books_id = e.books_id and l.bank_account_id = e.opening_of and l.is_here
            and l.twice_of is null and l.date > e.date and l.date <= ${date}
            and coalesce(d.reason, '') not in ('secondCopy', 'beforeOpening')), 0))::bigint
          as standing
        from entries e
        join legs g on g.books_id = e.books_id and g.entry_id = e.id and g.role = 'bank'
        where e.books_id = ${booksId} and e.opening_of = ${bankAccountId} and not e.is_void`,
  );
  return row?.standing ?? null;
}

type BatchRow = Omit<Batch, 'refusal'> & {
  readonly refusal: { readonly code: ErrorCode; readonly params: ErrorParams } | null;
};

const columns = sql`
  b.id, b.bank_account_id as "bankAccountId", b.file_name as "fileName", b.status, b.format,
  b.refusal, b.problems, b.from_date as "fromDate", b.to_date as "toDate", b.closing,
  b.closing_date as "closingDate", b.line_count as "lineCount", b.new_count as "newCount",
  u.name as "createdBy", to_json(b.created_at) #>> '{}' as "createdAt",
  (select i.step_no from step_items i join steps s on s.books_id = i.books_id and s.no = i.step_no
    where i.books_id = b.books_id and i.thing_id = b.id and s.kind = 'keepBatch') as step`;

/** The newest batches of the books. */
export async function batchesOf(tx: Tx, booksId: string): Promise<Batch[]> {
  const rows = await rowsOf<BatchRow>(
    tx,
    sql`select ${columns} from batches b join users u on u.id = b.created_by
        where b.books_id = ${booksId} order by b.created_at desc, b.id limit 200`,
  );
  return rows.map(shown);
}

/** One batch. @throws {ZubrellError} NOT_FOUND */
export async function batchOf(tx: Tx, booksId: string, batchId: string): Promise<Batch> {
  const [row] = await rowsOf<BatchRow>(
    tx,
    sql`select ${columns} from batches b join users u on u.id = b.created_by
        where b.books_id = ${booksId} and b.id = ${batchId}`,
  );
  return shown(row ?? fail('NOT_FOUND'));
}

function shown(row: BatchRow): Batch {
  const { refusal } = row;
  return {
    ...row,
    refusal: refusal && {
      code: refusal.code,
      message: messageOf(refusal.code, refusal.params),
    },
  };
}
