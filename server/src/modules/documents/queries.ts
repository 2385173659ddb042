import {
  DocumentSheet,
  type Documents,
  type DocumentsWanted,
  ListedDocument,
  type NumberSeries,
} from '@zubrell/contract/documents';
import { daysBetween } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BooksId, DocumentId } from '@zubrell/core/ids';
import { numberSeries } from '@zubrell/core/ledger/numberSeries';
import { parseSearch } from '@zubrell/core/text/parseSearch';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { joinOpenDocument, openOfDocument, openWorth } from '../../db/openOfDocument.ts';
import { hasText } from '../../db/textSearch.ts';
import { booksCurrency } from '../books/queries.ts';

const columns = sql`
  d.id, d.kind, d.side, d.number, coalesce(p.merged_into, p.id) as "payeeId", d.date,
  d.due_date as "dueDate", d.amount, ${openOfDocument}::bigint as open, d.exchange, e.is_void as "isVoid",
  d.entry_id as "entryId", d.last_step as "lastStep"`;
const joinsOf = (documents: SQL): SQL => sql`
  ${documents} d
  join entries e on e.books_id = d.books_id and e.id = d.entry_id
  join payees p on p.books_id = d.books_id and p.id = d.payee_id
  ${joinOpenDocument}`;
const joins = joinsOf(sql`documents`);

/** So many are listed at once. */
const LISTED = 2_000;

const OpenRow = z.object({ due: z.string(), amount: z.number() });

/** The bills or invoices of the books, the newest first, and what is open of them by age. */
export async function documentsOf(
  tx: Tx,
  booksId: BooksId,
  { side, state, search = '' }: z.infer<typeof DocumentsWanted>,
  today: string,
): Promise<Documents> {
  const found = searchFilter(search, await booksCurrency(tx, booksId));
  // Where all are wanted, the newest are taken before anything else is read of them.
  const isAll = state === undefined && search.trim() === '';
  const wanted = isAll
    ? sql`(select * from documents where books_id = ${booksId} and side = ${side}
        order by date desc, number desc limit ${LISTED})`
    : sql`documents`;
  const documents = await rowsOf(
    tx,
    ListedDocument,
    sql`select * from (
          select ${columns}, y.name as payee from ${joinsOf(wanted)}
          join payees y on y.books_id = p.books_id and y.id = coalesce(p.merged_into, p.id)
          where d.books_id = ${booksId} and d.side = ${side}
            and ${state === 'open' ? sql`od.amount <> 0` : sql`true`}) found
        where ${stateFilter(state)} and ${found}
        order by date desc, number desc limit ${LISTED}`,
  );
  const open = await rowsOf(
    tx,
    OpenRow,
    sql`select due, open as amount from (
          select coalesce(d.due_date, d.date) as due, ${openWorth}::bigint as open from ${joins}
          where d.books_id = ${booksId} and d.side = ${side} and not e.is_void and od.worth <> 0) found`,
  );
  const series =
    side === 'payables'
      ? null
      : {
          invoice: await seriesOf(tx, booksId, 'invoice'),
          creditNote: await seriesOf(tx, booksId, 'creditNote'),
        };
  return { documents, ages: byAge(open, today), today, series };
}

const NumberRow = z.object({ number: z.string() });

/** The numbers of what was sent to customers, void or not: a number that was given once is not given again. */
async function seriesOf(
  tx: Tx,
  booksId: BooksId,
  kind: 'invoice' | 'creditNote',
): Promise<NumberSeries> {
  const rows = await rowsOf(
    tx,
    NumberRow,
    sql`select number from documents
        where books_id = ${booksId} and side = 'receivables' and kind = ${kind} and number is not null
        order by step`,
  );
  const { next, missing } = numberSeries(
    rows.map(({ number }) => number),
    kind === 'invoice' ? '1' : 'C1',
  );
  return { next, missing: [...missing] };
}

function stateFilter(state: 'open' | 'settled' | 'void' | undefined): SQL {
  if (state === undefined) return sql`true`;
  if (state === 'void') return sql`"isVoid"`;
  return state === 'open' ? sql`not "isVoid" and open <> 0` : sql`not "isVoid" and open = 0`;
}

function searchFilter(typed: string, currency: string): SQL {
  const search = parseSearch(typed, currency);
  if (search.kind === 'all') return sql`true`;
  const has = (column: string) => hasText(sql.raw(column), typed.trim());
  const named = sql`(${has('number')} or ${has('payee')})`;
  return search.kind === 'text'
    ? named
    : sql`(abs(amount) between ${search.from} and ${search.to} or ${named})`;
}

function byAge(
  open: readonly { readonly due: string; readonly amount: number }[],
  today: string,
): Documents['ages'] {
  const sums: Documents['ages'] = (['notDue', 'to30', 'to60', 'to90', 'older'] as const).map(
    (age) => ({ age, count: 0, amount: 0 }),
  );
  for (const { due, amount } of open) {
    const late = daysBetween(due, today);
    const sum = sums[late <= 0 ? 0 : late <= 30 ? 1 : late <= 60 ? 2 : late <= 90 ? 3 : 4];
    if (!sum) continue;
    sum.count += 1;
    sum.amount += amount;
  }
  return sums;
}

const DocumentRow = DocumentSheet.omit({ payments: true, attachments: true });

const AttachmentRow = DocumentSheet.shape.attachments.element;

const PaymentRow = DocumentSheet.shape.payments.element;

/** A document with its lines, and what has settled it. @throws {ZubrellError} DOCUMENT_UNKNOWN */
export async function documentSheet(
  tx: Tx,
  booksId: BooksId,
  documentId: DocumentId,
): Promise<DocumentSheet> {
  const [document] = await rowsOf(
    tx,
    DocumentRow,
    sql`select ${columns}, d.lines, d.note,
          (select last_step from books where id = d.books_id) as "seenStep"
        from ${joins} where d.books_id = ${booksId} and d.id = ${documentId}`,
  );
  if (!document) fail('DOCUMENT_UNKNOWN');
  const payments = await rowsOf(
    tx,
    PaymentRow,
    sql`select a.decision_id as "decisionId", a.amount,
          (select coalesce(json_agg(json_build_object('id', l.id, 'date', l.date, 'amount', l.amount,
              'description', l.description) order by l.date), '[]')
            from decision_lines x join lines l on l.books_id = x.books_id and l.id = x.line_id
            where x.books_id = a.books_id and x.decision_id = a.decision_id) as lines,
          (select json_build_object('id', e.id, 'kind', e.kind, 'date', e.date, 'number', e.number)
            from decision_legs x
            join legs g on g.books_id = x.books_id and g.id = x.leg_id
            join entries e on e.books_id = g.books_id and e.id = g.entry_id and e.content is not null
            where x.books_id = a.books_id and x.decision_id = a.decision_id and g.role = 'control'
            limit 1) as entry
        from allocations a
        where a.books_id = ${booksId} and a.document_id = ${documentId} and a.is_live`,
  );
  const attachments = await rowsOf(
    tx,
    AttachmentRow,
    sql`select id, file_name as "fileName" from attachments
        where books_id = ${booksId} and document_id = ${documentId} order by at, id`,
  );
  return { ...document, payments, attachments };
}
