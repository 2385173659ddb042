import { randomUUID } from 'node:crypto';
import { fail } from '@zubrell/core/errors';
import { offsetAmounts } from '@zubrell/core/ledger/documents';
import { candidateNames } from '@zubrell/core/pair/pairWords';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { insertDecisions } from '../lines/insertDecisions.ts';
import { booksCandidates } from '../pairing/candidates.ts';
import { renewForDocuments } from '../pairing/renewNamed.ts';
import { recordStep, type StepItem, takeStepNumber } from '../steps/recordStep.ts';
import type { DocumentDone } from './changeDocument.ts';

/**
 * Settles documents of one payee against each other, the oldest first: a credit note or credit that is left pays
 * invoices without any money.
 *
 * @throws {ZubrellError} DOCUMENT_UNKNOWN, OFFSET_PAYEES, OFFSET_NOTHING
 */
export async function offsetDocuments(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  documentIds: readonly string[],
): Promise<DocumentDone> {
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
  const step = await takeStepNumber(tx, booksId);
  const decisionId = randomUUID();
  await insertDecisions(tx, booksId, step, [
    {
      id: decisionId,
      kind: 'paired',
      allocations: used.map(({ document: { id }, amount }) => ({ documentId: id, amount })),
    },
  ]);
  const words = `Settled ${candidateNames(used.map(({ document }) => document))} of ${first.payee ?? ''} against each other`;
  const items: StepItem[] = [
    { thing: 'offset', thingId: decisionId, before: { isLive: false }, after: { isLive: true } },
    ...used.map(
      ({ document: { id } }): StepItem => ({
        thing: 'tied',
        thingId: id,
        before: null,
        after: null,
      }),
    ),
  ];
  await recordStep(tx, services, booksId, actor, step, { kind: 'offset', words, items });
  await renewForDocuments(tx, booksId, documents);
  return { id: decisionId, step, words };
}

/** Brings an offset back, or takes it away. @returns whether it stood the other way */
export async function setOffsetLive(
  tx: Tx,
  booksId: string,
  decisionId: string,
  isLive: boolean,
): Promise<boolean> {
  const rows = await rowsOf<{ amount: number; payeeId: string }>(
    tx,
    sql`update allocations a set is_live = ${isLive} from documents d
        where a.books_id = ${booksId} and a.decision_id = ${decisionId} and a.is_live <> ${isLive}
          and d.books_id = a.books_id and d.id = a.document_id
        returning d.amount, d.payee_id as "payeeId"`,
  );
  if (rows.length > 0) await renewForDocuments(tx, booksId, rows);
  return rows.length > 0;
}
