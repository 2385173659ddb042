import { CalendarDate, Exchange, Id, Minor } from '@zubrell/contract/common';
import { DocumentLine } from '@zubrell/contract/documents';
import type { DocumentId } from '@zubrell/core/ids';
import { documentKinds, documentSides } from '@zubrell/core/ledger/documents';
import { nameKey } from '@zubrell/core/text/nameKey';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { bulkInsert } from '../../db/bulkInsert.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';

/** A document as a step finds and leaves it. */
export const DocumentState = z.object({
  kind: z.enum(documentKinds),
  side: z.enum(documentSides),
  number: z.string().nullable(),
  payeeId: Id,
  date: CalendarDate,
  dueDate: CalendarDate.nullable(),
  amount: Minor,
  /** Steps of before other currencies say nothing of these. */
  exchange: Exchange.nullable().default(null),
  worth: Minor.nullable().default(null),
  lines: z.array(DocumentLine),
  note: z.string().nullable(),
  entryId: Id,
});
export type DocumentState = z.infer<typeof DocumentState>;

/** A document to write. */
export type NewDocumentRow = DocumentState & { readonly id: string };

/** Writes documents, whose entries are there. */
export async function insertDocuments(
  { tx, booksId, step }: BooksCommand,
  made: readonly NewDocumentRow[],
): Promise<void> {
  await bulkInsert(
    tx,
    'documents',
    {
      books_id: 'uuid',
      id: 'uuid',
      kind: 'text',
      side: 'text',
      number: 'text',
      number_key: 'text',
      payee_id: 'uuid',
      date: 'date',
      due_date: 'date',
      amount: 'bigint',
      exchange: 'jsonb',
      worth: 'bigint',
      lines: 'jsonb',
      note: 'text',
      entry_id: 'uuid',
      step: 'bigint',
      last_step: 'bigint',
    },
    made.map((each) => ({
      books_id: booksId,
      id: each.id,
      kind: each.kind,
      side: each.side,
      number: each.number,
      number_key: numberKey(each.number),
      payee_id: each.payeeId,
      date: each.date,
      due_date: each.dueDate,
      amount: each.amount,
      exchange: each.exchange,
      worth: each.worth,
      lines: each.lines,
      note: each.note,
      entry_id: each.entryId,
      step,
      last_step: step,
    })),
  );
}

/** Puts a document, whose entries are there, from one state into another: only the entry of that is in force. */
export async function moveDocument(
  { tx, booksId, step }: BooksCommand,
  documentId: DocumentId,
  from: DocumentState | null,
  to: DocumentState | null,
): Promise<void> {
  const setVoid = (id: string, isVoid: boolean) =>
    tx.execute(
      sql`update entries set is_void = ${isVoid} where books_id = ${booksId} and id = ${id}`,
    );
  if (from && from.entryId !== to?.entryId) await setVoid(from.entryId, true);
  if (to && from?.entryId !== to.entryId) await setVoid(to.entryId, false);
  await tx.execute(
    to === null
      ? sql`update documents set last_step = ${step} where books_id = ${booksId} and id = ${documentId}`
      : sql`update documents set kind = ${to.kind}, side = ${to.side}, number = ${to.number},
              number_key = ${numberKey(to.number)},
              payee_id = ${to.payeeId}, date = ${to.date}, due_date = ${to.dueDate}, amount = ${to.amount},
              exchange = ${to.exchange && JSON.stringify(to.exchange)}::jsonb, worth = ${to.worth},
              lines = ${JSON.stringify(to.lines)}::jsonb, note = ${to.note}, entry_id = ${to.entryId},
              last_step = ${step}
            where books_id = ${booksId} and id = ${documentId}`,
  );
}

/** Whether document `d` has the number of a document: suppliers number theirs, the books their own. */
export function isSameDocument({ kind, side, number, payeeId }: DocumentNumber): SQL {
  return sql`(d.kind = ${kind} and d.side = ${side} and d.number_key = ${numberKey(number)}
    and (${side} = 'receivables' or d.payee_id = ${payeeId}))`;
}

/** What tells documents apart. */
type DocumentNumber = Pick<DocumentState, 'kind' | 'side' | 'number' | 'payeeId'>;

/** A document's number as numbers are compared. */
const numberKey = (number: string | null) => (number === null ? null : nameKey(number));
