import { randomUUID } from 'node:crypto';
import { fail } from '@zubrell/core/errors';
import { offsetAmounts } from '@zubrell/core/ledger/documents';
import { candidateNames } from '@zubrell/core/pair/pairWords';
import { needs } from '../books/needsOf.ts';
import { insertDecisions } from '../lines/insertDecisions.ts';
import { booksCandidates } from '../pairing/candidates.ts';
import { renewForDocuments } from '../pairing/renewNamed.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordStep, type StepItem } from '../steps/recordStep.ts';
import type { DocumentDone } from './changeDocument.ts';

/**
 * Settles documents of one payee against each other, the oldest first: a credit note or credit that is left pays
 * invoices without any money.
 *
 * @throws {ZubrellError} DOCUMENT_UNKNOWN, OFFSET_PAYEES, OFFSET_NOTHING
 */
export async function offsetDocuments(
  command: BooksCommand,
  documentIds: readonly string[],
): Promise<DocumentDone> {
  const { tx, booksId, step } = command;
  const documents = (await booksCandidates(tx, booksId, { ids: documentIds })).filter(
    ({ documentId, id }) => documentId === id,
  );
  const [first = fail('DOCUMENT_UNKNOWN')] = documents;
  if (documents.some(({ payeeId, side }) => payeeId !== first.payeeId || side !== first.side)) {
    fail('OFFSET_PAYEES');
  }
  const amounts = offsetAmounts(documents.map(({ amount }) => amount));
  const used = documents.flatMap((document, at) => {
    const amount = amounts[at] ?? 0;
    return amount === 0 ? [] : [{ document, amount }];
  });
  if (used.length < 2) fail('OFFSET_NOTHING');
  const decisionId = randomUUID();
  await insertDecisions(command, [
    {
      id: decisionId,
      kind: 'paired',
      allocations: used.map(({ document: { id }, amount }) => ({ documentId: id, amount })),
    },
  ]);
  const words = `Settled ${candidateNames(used.map(({ document }) => document))} of ${first.payee ?? ''} against each other`;
  const items: StepItem[] = [
    { thing: 'offset', thingId: decisionId, before: { isLive: false }, after: { isLive: true } },
  ];
  const needed = needs(
    'document',
    used.map(({ document: { id } }) => id),
  );
  await recordStep(command, { kind: 'offset', words, items, needs: needed });
  await renewForDocuments(tx, booksId, documents);
  return { id: decisionId, step, words };
}
