import { randomUUID } from 'node:crypto';
import type { Made } from '@zubrell/contract/common';
import { NewDocument } from '@zubrell/contract/documents';
import { fail } from '@zubrell/core/errors';
import type { BooksId, DocumentId } from '@zubrell/core/ids';
import { buildLegs } from '@zubrell/core/ledger/buildLegs';
import {
  directionOf,
  documentAmount,
  documentCoding,
  documentKinds,
} from '@zubrell/core/ledger/documents';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { lowerFirst } from '@zubrell/core/text/lowerFirst';
import { nameKey } from '@zubrell/core/text/nameKey';
import { amountSaid, type Said, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { joinOpenDocument, openOfDocument } from '../../db/openOfDocument.ts';
import { NameRow } from '../../db/rows.ts';
import { loadLookups } from '../books/lookups.ts';
import { loadMoney } from '../books/money.ts';
import { needs, needsOfCodings } from '../books/needsOf.ts';
import { booksCurrency, controlAccounts } from '../books/queries.ts';
import { insertEntries, type NewEntry } from '../ledger/insertEntries.ts';
import { DocumentState, insertDocuments, moveDocument } from '../ledger/setDocument.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { type Need, plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';
import { rechargedEntries } from './recharges.ts';

/** A document, and the newest step that the sender has seen. */
interface SeenDocument {
  readonly id: string;
  readonly seenStep: number;
}

/**
 * Enters a bill, invoice or credit note, with its entry.
 *
 * @throws {ZubrellError} DOCUMENT_NIL, DOCUMENT_THERE, PAYEE_UNKNOWN and those of a coding
 */
export async function enterDocument(command: BooksCommand, wanted: NewDocument): Promise<Made> {
  const { tx, booksId, step } = command;
  const recharged = await needsOfRecharges(command, wanted);
  const { items, states } = await makeDocuments(command, [wanted]);
  const words = say`Entered ${await documentWords(tx, booksId, wanted)}`;
  const needed = [...needsOfDocuments([wanted]), ...recharged];
  await recordStep(command, { kind: 'document', words, items, needs: needed });
  await command.follow.documentsChanged(command, states);
  return { id: items[0]?.thingId ?? '', step, words: plainWords(words) };
}

/** What has to be there for documents to hold. */
export function needsOfDocuments(documents: readonly Wanted[]): Need[] {
  return needsOfCodings(documents.map(documentCoding));
}

/** The costs that a document charges to a customer have to be there as well. */
async function needsOfRecharges({ tx, booksId }: BooksCommand, wanted: Wanted): Promise<Need[]> {
  return needs('entry', await rechargedEntries(tx, booksId, wanted));
}

/** Writes documents with their entries. @returns what the step touched */
export async function makeDocuments(
  command: BooksCommand,
  wanted: readonly NewDocument[],
): Promise<{ readonly items: readonly StepItem[]; readonly states: readonly DocumentState[] }> {
  const { tx, booksId } = command;
  await checkNumbers(tx, booksId, wanted, null);
  const made = await entriesFor(tx, booksId, wanted);
  await insertEntries(
    command,
    made.map(({ entry }) => entry),
  );
  const rows = made.map(({ state }) => ({ id: randomUUID(), ...state }));
  await insertDocuments(command, rows);
  return {
    items: rows.map(
      ({ id, ...state }): StepItem => ({
        thing: 'document',
        thingId: id,
        before: null,
        after: state,
      }),
    ),
    states: made.map(({ state }) => state),
  };
}

/**
 * Changes a bill or a supplier's credit note that nothing is paid of: its entry is voided, and another put in its
 * place. Invoices that went out are not changed.
 *
 * @throws {ZubrellError} DOCUMENT_UNKNOWN, DOCUMENT_CHANGED, DOCUMENT_VOID, DOCUMENT_PAID, DOCUMENT_ISSUED, PERIOD_CLOSED
 */
export async function changeDocument(
  command: BooksCommand,
  { id: documentId, document: wanted, seenStep }: SeenDocument & { readonly document: NewDocument },
): Promise<Made> {
  const { tx, booksId, step } = command;
  const before = await freeDocument(tx, booksId, documentId, seenStep);
  if (before.side === 'receivables') fail('DOCUMENT_ISSUED');
  const { item, after } = await replaceDocument(command, documentId, before, wanted);
  const words = say`Changed ${await documentWords(tx, booksId, wanted)}`;
  await recordStep(command, {
    kind: 'changeDocument',
    words,
    items: [item],
    needs: needsOfDocuments([wanted]),
  });
  await command.follow.documentsChanged(command, [before, after]);
  return { id: documentId, step, words: plainWords(words) };
}

/**
 * Voids a document that nothing is paid of.
 *
 * @throws {ZubrellError} DOCUMENT_UNKNOWN, DOCUMENT_CHANGED, DOCUMENT_VOID, DOCUMENT_PAID, PERIOD_CLOSED
 */
export async function voidDocument(
  command: BooksCommand,
  { id: documentId, seenStep }: SeenDocument,
): Promise<Made> {
  const { tx, booksId, step } = command;
  const before = await freeDocument(tx, booksId, documentId, seenStep);
  await moveDocument(command, documentId, before, null);
  const words = say`Voided ${await documentWords(tx, booksId, before)}`;
  const items: StepItem[] = [{ thing: 'document', thingId: documentId, before, after: null }];
  await recordStep(command, { kind: 'voidDocument', words, items });
  await command.follow.documentsChanged(command, [before]);
  return { id: documentId, step, words: plainWords(words) };
}

/**
 * Corrects the amount of a bill of one line, as part of a step.
 *
 * @param by how much more it has to come to, in positive, out negative
 * @throws {ZubrellError} PAIR_CORRECT where it can't be corrected so
 */
export async function correctDocument(
  command: BooksCommand,
  documentId: DocumentId,
  by: number,
): Promise<{ readonly id: string; readonly items: readonly StepItem[] }> {
  const { tx, booksId } = command;
  const before = await freeDocument(tx, booksId, documentId);
  const [line, ...others] = before.lines;
  if (!line || others.length > 0 || before.side === 'receivables') fail('PAIR_CORRECT');
  const amount = line.amount + directionOf(before.kind, before.side) * by;
  const wanted = { ...before, lines: [{ ...line, amount, tax: null }] };
  const { item } = await replaceDocument(command, documentId, before, wanted);
  return { id: documentId, items: [item] };
}

const Wanted = NewDocument.omit({ kind: true, number: true }).extend({
  kind: z.enum(documentKinds),
  number: z.string().nullable(),
});
type Wanted = z.infer<typeof Wanted>;
const KnownState = DocumentState.extend(Wanted.shape);
type KnownState = z.infer<typeof KnownState>;

async function replaceDocument(
  command: BooksCommand,
  documentId: DocumentId,
  before: KnownState,
  wanted: Wanted,
): Promise<{ readonly item: StepItem; readonly after: DocumentState }> {
  const { tx, booksId } = command;
  await checkNumbers(tx, booksId, [wanted], documentId);
  const [made = fail('DOCUMENT_NIL')] = await entriesFor(tx, booksId, [wanted], before.entryId);
  await insertEntries(command, [made.entry]);
  await moveDocument(command, documentId, before, made.state);
  const after = made.state;
  return { item: { thing: 'document', thingId: documentId, before, after }, after };
}

/** The entries of documents: what is owed, against the lines with their tax. */
async function entriesFor(
  tx: Tx,
  booksId: BooksId,
  wanted: readonly Wanted[],
  replaces: string | null = null,
): Promise<readonly { readonly entry: NewEntry; readonly state: DocumentState }[]> {
  const codings = wanted.map(documentCoding);
  const lookups = await loadLookups(tx, booksId, codings);
  const accounts = await controlAccounts(tx, booksId);
  const own = await booksCurrency(tx, booksId);
  const dayOf = ({ currency, date }: Wanted) => ({ currency: currency ?? own, date });
  const money = await loadMoney(tx, booksId, wanted.map(dayOf));
  return wanted.map((document, at) => {
    const coding = codings[at] ?? fail('DOCUMENT_NIL');
    const amount = documentAmount(document);
    if (Math.sign(amount) !== directionOf(document.kind, document.side)) fail('DOCUMENT_NIL');
    lookups.checkCoding(coding);
    const { isBank } = lookups.on(document.date);
    const bank = coding.parts.find(({ accountId }) => isBank(accountId));
    if (bank) fail('ACCOUNT_IS_BANK', { name: lookups.accountName(bank.accountId) });
    const built = buildLegs(amount, accounts[document.side], coding, {
      ...lookups.on(document.date),
      role: 'control',
    });
    const { legs, exchange } = money.takeIn(built, dayOf(document), document.rate);
    const { kind, side, number, payeeId, date, dueDate, lines, note } = document;
    const entry: NewEntry = {
      id: randomUUID(),
      date,
      kind: 'document',
      payeeId,
      note,
      number,
      replaces,
      exchange,
      legs: legs.map((leg) => ({ ...leg, id: randomUUID() })),
    };
    const worth = exchange === null ? null : (legs[0]?.amount ?? 0);
    const state = { kind, side, number, payeeId, date, dueDate, amount, lines, note };
    return { entry, state: { ...state, exchange, worth, entryId: entry.id } };
  });
}

const ThereRow = z.object({ kind: z.enum(documentKinds), number: z.string(), payee: z.string() });

/** A supplier numbers its bills, the books number their invoices: none comes twice. */
async function checkNumbers(
  tx: Tx,
  booksId: BooksId,
  wanted: readonly Wanted[],
  except: string | null,
): Promise<void> {
  const [there] = await rowsOf(
    tx,
    ThereRow,
    sql`select d.kind, d.number, y.name as payee
        from unnest(
          ${sql.param(wanted.map(({ kind }) => kind))}::text[],
          ${sql.param(wanted.map(({ side }) => side))}::text[],
          ${sql.param(wanted.map(({ number }) => number && nameKey(number)))}::text[],
          ${sql.param(wanted.map(({ payeeId }) => payeeId))}::uuid[]) as w (kind, side, number_key, payee_id)
        join documents d on d.books_id = ${booksId} and d.kind = w.kind and d.side = w.side
          and d.number_key = w.number_key
          and (w.side = 'receivables' or d.payee_id = w.payee_id)
          and d.id is distinct from ${except}::uuid
        join entries e on e.books_id = d.books_id and e.id = d.entry_id and not e.is_void
        join payees y on y.books_id = d.books_id and y.id = d.payee_id
        limit 1`,
  );
  const what = there ? candidateName({ kind: there.kind, number: null }) : '';
  if (there) fail('DOCUMENT_THERE', { what, number: there.number, payee: there.payee });
}

const FreeDocumentRow = KnownState.extend({
  open: z.number(),
  isVoid: z.boolean(),
  lastStep: z.number(),
});

/** A document in force that nothing is settled of. */
async function freeDocument(
  tx: Tx,
  booksId: BooksId,
  documentId: DocumentId,
  seenStep = Number.MAX_SAFE_INTEGER,
): Promise<KnownState> {
  const [row] = await rowsOf(
    tx,
    FreeDocumentRow,
    sql`select d.kind, d.side, d.number, d.payee_id as "payeeId", d.date, d.due_date as "dueDate",
          d.amount, d.exchange, d.worth, d.exchange ->> 'currency' as currency,
          d.exchange ->> 'rate' as rate, d.lines, d.note, d.entry_id as "entryId", e.is_void as "isVoid",
          ${openOfDocument}::bigint as open, d.last_step as "lastStep"
        from documents d join entries e on e.books_id = d.books_id and e.id = d.entry_id
        ${joinOpenDocument}
        where d.books_id = ${booksId} and d.id = ${documentId} for update of d`,
  );
  if (!row) fail('DOCUMENT_UNKNOWN');
  const { open, isVoid, lastStep, ...state } = row;
  if (lastStep > seenStep) fail('DOCUMENT_CHANGED', { what: candidateName(state) });
  if (isVoid) fail('DOCUMENT_VOID');
  if (open !== state.amount || state.kind === 'credit') {
    fail('DOCUMENT_PAID', { what: candidateName(state) });
  }
  return state;
}

/** @example 'bill 2093 of Penhallow Clay, 312.40' */
async function documentWords(tx: Tx, booksId: BooksId, document: Wanted): Promise<Said> {
  const [payee] = await rowsOf(
    tx,
    NameRow,
    sql`select name from payees where books_id = ${booksId} and id = ${document.payeeId}`,
  );
  const name = candidateName(document);
  const own = await booksCurrency(tx, booksId);
  const { currency } = document;
  const size = amountSaid(Math.abs(documentAmount(document)), currency ?? own);
  const amount = currency && currency !== own ? say`${size} ${currency}` : size;
  return say`${lowerFirst(name)} of ${payee?.name ?? ''}, ${amount}`;
}
