import type { DocumentLine, NewDocument } from '@zubrell/contract/documents';
import type { Imported } from '@zubrell/contract/ledger';
import type { LedgerRecord } from '@zubrell/core/ledger/readRecords';
import { countSaid, say } from '@zubrell/core/words/say';
import {
  accountOf,
  importRecords,
  type RecordSort,
  unknownNames,
} from '../ledger/importRecords.ts';
import type { RecordNames } from '../ledger/recordNames.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { makeDocuments, needsOfDocuments } from './changeDocument.ts';

const KINDS: Readonly<Record<string, Pick<NewDocument, 'kind' | 'side'>>> = {
  bill: { kind: 'bill', side: 'payables' },
  invoice: { kind: 'invoice', side: 'receivables' },
  'credit note': { kind: 'creditNote', side: 'receivables' },
  'supplier credit note': { kind: 'creditNote', side: 'payables' },
};

/**
 * Reads bills, invoices and credit notes from a CSV file; rows of one number and payee are the lines of one
 * document.
 */
export function importDocuments(
  command: BooksCommand,
  file: { readonly text: string; readonly makePayees: boolean },
): Promise<Imported> {
  const sort: RecordSort<NewDocument> = {
    problemsOf,
    payeeKind: (name, records) =>
      records.some(({ payee, kind }) => payee === name && sideOf(kind) === 'receivables')
        ? 'customer'
        : 'supplier',
    wantedOf: documentFrom,
    write: async (wanted) => {
      const documents = together(wanted);
      const { items } = await makeDocuments(command, documents);
      await command.follow.allChanged(command);
      const words = say`Entered ${countSaid(items.length, 'document', 'documents')} from a file`;
      return { items, words, needs: needsOfDocuments(documents) };
    },
  };
  return importRecords(command, file, sort);
}

const sideOf = (kind: string | null) => KINDS[kind ?? '']?.side;

function problemsOf(record: LedgerRecord, names: RecordNames): readonly string[] {
  const { kind, number, payee } = record;
  const problems: string[] = [];
  if (!KINDS[kind ?? '']) {
    problems.push(
      `“${kind ?? ''}” is no kind: bill, invoice, credit note or supplier credit note.`,
    );
  }
  if (number === null) problems.push('The number is missing.');
  if (payee === null) problems.push('The payee is missing.');
  return [...problems, ...unknownNames(record, names)];
}

/** A row as a document of one line. */
function documentFrom(record: LedgerRecord, names: RecordNames): NewDocument | null {
  const { kind, side } = KINDS[record.kind ?? ''] ?? { kind: 'bill', side: 'payables' };
  const payeeId = names.payee(record.payee ?? '') ?? '';
  const coded = accountOf(record, payeeId, names);
  if (coded === null) return null;
  const amount = Math.abs(record.amount);
  return {
    kind,
    side,
    number: record.number ?? '',
    payeeId,
    date: record.date,
    dueDate: record.dueDate,
    lines: [{ text: record.text ?? '', ...coded, amount, tax: null }],
    note: null,
  };
}

/** Puts the lines of one document together. */
function together(rows: readonly NewDocument[]): readonly NewDocument[] {
  const documents = new Map<string, NewDocument & { lines: DocumentLine[] }>();
  for (const row of rows) {
    const key = `${row.kind} ${row.side} ${row.payeeId} ${row.number}`;
    const known = documents.get(key);
    if (known) known.lines.push(...row.lines);
    else documents.set(key, { ...row, lines: [...row.lines] });
  }
  return [...documents.values()];
}
