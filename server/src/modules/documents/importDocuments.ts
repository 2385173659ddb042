import type { DocumentLine, NewDocument } from '@zubrell/contract/documents';
import type { Imported } from '@zubrell/contract/ledger';
import {
  type LedgerRecord,
  type RecordProblem,
  readRecords,
} from '@zubrell/core/ledger/readRecords';
import type { Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { createPayee } from '../books/makeThings.ts';
import { booksCurrency } from '../books/queries.ts';
import { type RecordNames, recordNames } from '../ledger/recordNames.ts';
import { renewAll } from '../lines/proposals.ts';
import { recordStep, takeStepNumber } from '../steps/recordStep.ts';
import { makeDocuments } from './changeDocument.ts';

const KINDS: Readonly<Record<string, Pick<NewDocument, 'kind' | 'side'>>> = {
  bill: { kind: 'bill', side: 'payables' },
  invoice: { kind: 'invoice', side: 'receivables' },
  'credit note': { kind: 'creditNote', side: 'receivables' },
  'supplier credit note': { kind: 'creditNote', side: 'payables' },
};

/**
 * Reads bills, invoices and credit notes from a CSV file; rows of one number and payee are the lines of one
 * document. Where anything is wrong, nothing is kept, and everything that is wrong is said.
 */
export async function importDocuments(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  { text, makePayees }: { readonly text: string; readonly makePayees: boolean },
): Promise<Imported> {
  const { records, problems } = readRecords(text, await booksCurrency(tx, booksId));
  let names = await recordNames(tx, booksId);
  const unknown = [
    ...new Set(
      records.flatMap(({ payee }) => (payee && names.payee(payee) === null ? [payee] : [])),
    ),
  ];
  const nothing = { step: null, words: 'Nothing kept', count: 0 };
  if (unknown.length > 0 && !makePayees)
    return { ...nothing, problems: [...problems], newPayees: unknown };
  const found = [...problems, ...missingNames(records, names)];
  if (found.length > 0) {
    return { ...nothing, problems: found.sort((a, b) => a.row - b.row), newPayees: unknown };
  }
  for (const name of unknown) {
    const isCustomer = records.some(
      ({ payee, kind }) => payee === name && KINDS[kind ?? '']?.side === 'receivables',
    );
    const kind = isCustomer ? 'customer' : 'supplier';
    await createPayee(tx, services, booksId, actor, { name, kind });
  }
  if (unknown.length > 0) names = await recordNames(tx, booksId);
  const { documents, without } = documentsFrom(records, names);
  if (without.length > 0) return { ...nothing, problems: without, newPayees: [] };
  const step = await takeStepNumber(tx, booksId);
  const items = await makeDocuments(tx, booksId, step, documents);
  const words = `Entered ${items.length === 1 ? '1 document' : `${items.length} documents`} from a file`;
  await recordStep(tx, services, booksId, actor, step, { kind: 'import', words, items });
  await renewAll(tx, booksId);
  return { step, words, count: items.length, problems: [], newPayees: unknown };
}

/** What rows name that is not in the books, or leave out that is needed. */
function missingNames(records: readonly LedgerRecord[], names: RecordNames): RecordProblem[] {
  return records.flatMap(({ row, kind, number, payee, account, tax }) => {
    const problems: string[] = [];
    if (!KINDS[kind ?? '']) {
      problems.push(
        `“${kind ?? ''}” is no kind: bill, invoice, credit note or supplier credit note.`,
      );
    }
    if (number === null) problems.push('The number is missing.');
    if (payee === null) problems.push('The payee is missing.');
    if (account !== null && names.account(account) === null) {
      problems.push(`There is no account “${account}”.`);
    }
    if (tax !== null && names.taxCode(tax) === null)
      problems.push(`There is no tax code “${tax}”.`);
    return problems.map((message) => ({ row, message }));
  });
}

/** Documents from rows; those for which neither the file nor the past says an account. */
function documentsFrom(
  records: readonly LedgerRecord[],
  names: RecordNames,
): { readonly documents: readonly NewDocument[]; readonly without: RecordProblem[] } {
  const without: RecordProblem[] = [];
  const documents = new Map<string, NewDocument & { lines: DocumentLine[] }>();
  for (const record of records) {
    const { kind, side } = KINDS[record.kind ?? ''] ?? { kind: 'bill', side: 'payables' };
    const payeeId = names.payee(record.payee ?? '') ?? '';
    const usual = names.usual(payeeId);
    const named = record.account === null ? null : names.account(record.account);
    const accountId = named ?? usual?.accountId;
    if (accountId === undefined) {
      without.push({
        row: record.row,
        message: 'The account is missing, and this payee has no usual one.',
      });
      continue;
    }
    const taxCodeId =
      record.tax === null
        ? named === null
          ? (usual?.taxCodeId ?? null)
          : null
        : names.taxCode(record.tax);
    const line = {
      text: record.text ?? '',
      accountId,
      taxCodeId,
      amount: Math.abs(record.amount),
      tax: null,
    };
    const key = `${kind} ${side} ${payeeId} ${record.number}`;
    const known = documents.get(key);
    if (known) {
      known.lines.push(line);
      continue;
    }
    documents.set(key, {
      kind,
      side,
      number: record.number ?? '',
      payeeId,
      date: record.date,
      dueDate: record.dueDate,
      lines: [line],
      note: null,
    });
  }
  return { documents: [...documents.values()], without };
}
