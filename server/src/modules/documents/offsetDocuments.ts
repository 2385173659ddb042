import { randomUUID } from 'node:crypto';
import type { Made } from '@zubrell/contract/common';
import type { OffsetDocuments } from '@zubrell/contract/documents';
import { fail } from '@zubrell/core/errors';
import { differenceLeg, type ExchangedLeg } from '@zubrell/core/exchange/exchangedLegs';
import {
  controlLeg,
  type DocumentSide,
  documentSides,
  offsetAmounts,
} from '@zubrell/core/ledger/documents';
import { sumOf } from '@zubrell/core/money/minor';
import { candidateNames } from '@zubrell/core/pair/candidateNames';
import { say } from '@zubrell/core/words/say';
import { type BooksMoney, loadMoney } from '../books/money.ts';
import { needs } from '../books/needsOf.ts';
import { controlAccounts } from '../books/queries.ts';
import { insertDecisions } from '../decisions/insertDecisions.ts';
import { offsetItem } from '../decisions/offsetItem.ts';
import { type BooksCandidate, booksCandidates } from '../ledger/candidates.ts';
import { insertEntries } from '../ledger/insertEntries.ts';
import { worthOf } from '../ledger/settledWorths.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { plainWords, recordStep } from '../steps/recordStep.ts';

/**
 * Settles documents of one payee against each other, the oldest first, without any money: a credit note or credit
 * that is left pays invoices, and a bill is set against an invoice by an entry between payables and receivables.
 *
 * @throws {ZubrellError} DOCUMENT_UNKNOWN, OFFSET_PAYEES, OFFSET_NOTHING, PERIOD_CLOSED
 */
export async function offsetDocuments(
  command: BooksCommand,
  { documentIds, date }: OffsetDocuments,
): Promise<Made> {
  const { tx, booksId, step } = command;
  const documents = (await booksCandidates(tx, booksId, { ids: documentIds })).filter(
    ({ documentId, id }) => documentId === id,
  );
  const [first = fail('DOCUMENT_UNKNOWN')] = documents;
  if (documents.some(({ payeeId }) => payeeId !== first.payeeId)) fail('OFFSET_PAYEES');
  if (documents.some(({ currency }) => currency !== first.currency)) fail('OFFSET_CURRENCIES');
  const amounts = offsetAmounts(documents.map(({ amount }) => amount));
  const used = documents.flatMap((document, at) => {
    const amount = amounts[at] ?? 0;
    return amount === 0 ? [] : [{ document, amount }];
  });
  if (used.length < 2) fail('OFFSET_NOTHING');
  const decisionId = randomUUID();
  const money = await loadMoney(tx, booksId, []);
  const allocations = worthOf(
    used.map(({ document: { id: documentId }, amount }) => ({ documentId, amount })),
    used.map(({ document }) => document),
    first.currency,
    money.own,
  );
  const between = await betweenSides(
    command,
    used.map(({ document }, at) => ({
      document,
      amount: allocations[at]?.worth ?? allocations[at]?.amount ?? 0,
    })),
    money,
  );
  const legs = between.map((leg) => ({ ...leg, id: randomUUID() }));
  if (legs.length > 0) {
    await insertEntries(command, [
      {
        id: randomUUID(),
        date: date ?? command.clock.today(),
        kind: 'settlement',
        payeeId: first.payeeId,
        note: null,
        legs,
      },
    ]);
  }
  await insertDecisions(command, [
    {
      id: decisionId,
      kind: 'paired',
      legIds: legs.map(({ id }) => id),
      allocations,
    },
  ]);
  const words = say`Settled ${candidateNames(used.map(({ document }) => document))} of ${first.payee ?? ''} against each other`;
  const items = [offsetItem(decisionId, true)];
  const needed = needs(
    'document',
    used.map(({ document: { id } }) => id),
  );
  await recordStep(command, { kind: 'offset', words, items, needs: needed });
  await command.follow.documentsChanged(command, documents);
  return { id: decisionId, step, words: plainWords(words) };
}

interface UsedDocument {
  readonly document: BooksCandidate;
  readonly amount: number;
}

/**
 * The legs that set what a customer owes against what the same payee is owed, by what stands in the books for it; none
 * where all is on one side. What rates made of documents in another currency is exchange gain or loss.
 */
async function betweenSides(
  { tx, booksId }: BooksCommand,
  used: readonly UsedDocument[],
  money: BooksMoney,
): Promise<readonly ExchangedLeg[]> {
  const onSide = (side: DocumentSide) =>
    sumOf(used.filter(({ document }) => document.side === side));
  const accounts = await controlAccounts(tx, booksId);
  const legs = documentSides
    .map((side) => controlLeg(accounts, side, -onSide(side)))
    .filter(({ amount }) => amount !== 0);
  const left = sumOf(legs);
  return left === 0 ? legs : [...legs, differenceLeg(money.differenceAccount(), -left)];
}
