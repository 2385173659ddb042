import type { DocumentLine } from '@zubrell/contract/documents';
import { sql } from 'drizzle-orm';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { renewForDocuments } from '../pairing/renewNamed.ts';
import type { StepItem } from '../steps/recordStep.ts';

/** A document as a step finds and leaves it. */
export interface DocumentState {
  readonly kind: string;
  readonly side: string;
  readonly number: string | null;
  readonly payeeId: string;
  readonly date: string;
  readonly dueDate: string | null;
  readonly amount: number;
  readonly lines: readonly DocumentLine[];
  readonly note: string | null;
  readonly entryId: string;
}

/** A document to write. */
export interface NewDocumentRow extends DocumentState {
  readonly id: string;
}

/** Writes documents, whose entries are there. */
export async function insertDocuments(
  tx: Tx,
  booksId: string,
  step: number,
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
      payee_id: 'uuid',
      date: 'date',
      due_date: 'date',
      amount: 'bigint',
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
      payee_id: each.payeeId,
      date: each.date,
      due_date: each.dueDate,
      amount: each.amount,
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
  tx: Tx,
  booksId: string,
  step: number,
  documentId: string,
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
              payee_id = ${to.payeeId}, date = ${to.date}, due_date = ${to.dueDate}, amount = ${to.amount},
              lines = ${JSON.stringify(to.lines)}::jsonb, note = ${to.note}, entry_id = ${to.entryId},
              last_step = ${step}
            where books_id = ${booksId} and id = ${documentId}`,
  );
}

/**
 * Moves a document from one state to another: its entry is the one of the state, any other is void.
 *
 * @returns whether it stood as `before` says
 */
export async function setDocument(
  tx: Tx,
  booksId: string,
  step: number,
  { thingId, before, after }: StepItem,
): Promise<boolean> {
  const [from, to] = [before as DocumentState | null, after as DocumentState | null];
  const [now] = await rowsOf<{ entryId: string; isVoid: boolean }>(
    tx,
    sql`select d.entry_id as "entryId", e.is_void as "isVoid"
        from documents d join entries e on e.books_id = d.books_id and e.id = d.entry_id
        where d.books_id = ${booksId} and d.id = ${thingId} for update of d`,
  );
  const current = now && !now.isVoid ? now.entryId : null;
  if (current !== (from?.entryId ?? null)) return false;
  await moveDocument(tx, booksId, step, thingId, from, to);
  await renewForDocuments(
    tx,
    booksId,
    [from, to].flatMap((state) => state ?? []),
  );
  return true;
}
