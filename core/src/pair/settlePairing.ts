import { fail } from '../errors.ts';
import type { DocumentId, PayeeId } from '../ids.ts';
import type { Leg } from '../ledger/buildLegs.ts';
import { controlLeg, type DocumentSide, sideOfCredit } from '../ledger/documents.ts';
import { type Minor, sumOf } from '../money/minor.ts';
import type { Candidate } from './pairing.ts';
import { isDocument } from './pairing.ts';
import { type SettledLine, type SettlementEntry, settlementEntries } from './settlementEntries.ts';

/** What it is paired with. */
export interface SettledTarget
  extends Pick<Candidate, 'id' | 'kind' | 'amount' | 'dueDate' | 'date' | 'payeeId'> {
  readonly side: DocumentSide | null;
  /** The document that is settled, or of which a payment came back. */
  readonly documentId: DocumentId | null;
}

/** What becomes of a difference; its legs where it is coded. */
export type SettledDifference =
  | { readonly kind: 'partPaid' }
  /** The rest is the payee's; where no document says whose, of this one. */
  | { readonly kind: 'onAccount'; readonly payeeId: PayeeId | null }
  | { readonly kind: 'code'; readonly legs: readonly Leg[] };

/** What a pairing makes. */
export interface Settlement {
  readonly entries: readonly SettlementEntry[];
  /** How much of each document is settled, signed like the document; the other way where a payment came back. */
  readonly allocations: readonly { readonly documentId: DocumentId; readonly amount: Minor }[];
  /** What stays as credit with a payee, as the amount of its document. */
  readonly credit: {
    readonly side: DocumentSide;
    readonly payeeId: PayeeId;
    readonly amount: Minor;
  } | null;
}

/** The ledger accounts that a pairing posts to. */
export interface SettlementAccounts {
  readonly bank: string;
  readonly receivables: string;
  readonly payables: string;
}

/**
 * Works out the entries and allocations that pair lines with entries and documents. Entries are taken as they are;
 * documents are paid by new ones: one for each line that pays any, dated by it.
 *
 * @param lines in the order of time, all of one bank account
 * @throws {ZubrellError} PAIR_UNBALANCED, PAIR_NO_DIFFERENCE, PAIR_DIRECTION, PAIR_PART_PAID, PAIR_ON_ACCOUNT
 * @example a line of 98.60, an invoice of 100.00 and bank charges of 1.40: bank +98.60, charges +1.40,
 * receivables −100.00, and all of the invoice settled
 */
export function settlePairing(
  lines: readonly SettledLine[],
  targets: readonly SettledTarget[],
  difference: SettledDifference | null,
  accounts: SettlementAccounts,
): Settlement {
  const bank = sumOf(lines);
  const by = bank - sumOf(targets);
  if (by !== 0 && difference === null) fail('PAIR_UNBALANCED');
  if (by === 0 && difference !== null) fail('PAIR_NO_DIFFERENCE');
  const documents = targets.filter(isDocument);
  const known = targets.filter((each) => !isDocument(each));
  checkDirection(bank, known, documents);
  const short = difference?.kind === 'partPaid' ? partPaid(documents, by) : null;
  const allocations = documents.map(({ id, documentId, amount }) => ({
    targetId: id,
    documentId: documentId ?? id,
    amount: id === short ? amount + by : amount,
  }));
  const credit =
    difference?.kind === 'onAccount' ? creditOf(documents, difference, by, bank) : null;
  const paid = new Map(allocations.map(({ targetId, amount }) => [targetId, amount]));
  const legs: Leg[] = [
    ...documents.map((document) =>
      controlLeg(accounts, document.side, -(paid.get(document.id) ?? 0)),
    ),
    ...(credit ? [controlLeg(accounts, credit.side, credit.amount)] : []),
    ...(difference?.kind === 'code' ? difference.legs : []),
  ];
  return {
    entries: settlementEntries(lines, known, legs, accounts.bank),
    allocations: byDocument(allocations),
    credit,
  };
}

/** Money that goes the other way pays nothing: it may be a refund, or a payment that came back. */
function checkDirection(
  bank: Minor,
  known: readonly SettledTarget[],
  documents: readonly SettledTarget[],
): void {
  const [paying, paid] = [bank - sumOf(known), sumOf(documents)];
  if (documents.length > 0 && paid !== 0 && Math.sign(paying) !== Math.sign(paid)) {
    fail('PAIR_DIRECTION');
  }
  if (documents.length === 0 && Math.sign(bank) === -Math.sign(sumOf(known))) {
    fail('PAIR_DIRECTION');
  }
}

/** What is settled of each document: two payments of one may come back together. */
function byDocument(allocations: Settlement['allocations']): Settlement['allocations'] {
  const amounts = new Map<string, Minor>();
  for (const { documentId, amount } of allocations) {
    amounts.set(documentId, (amounts.get(documentId) ?? 0) + amount);
  }
  return [...amounts].map(([documentId, amount]) => ({ documentId, amount }));
}

/** The document of which a part stays open: the last that is due. */
function partPaid(documents: readonly SettledTarget[], by: Minor): string {
  const latest = [...documents]
    .sort((a, b) => ((a.dueDate ?? a.date) < (b.dueDate ?? b.date) ? 1 : -1))
    .find(({ amount }) => Math.sign(by) === -Math.sign(amount) && Math.abs(by) < Math.abs(amount));
  return latest?.id ?? fail('PAIR_PART_PAID');
}

/** Too much was paid, or all of it before there is a document: that is the payee's. */
function creditOf(
  documents: readonly SettledTarget[],
  { payeeId }: { readonly payeeId: PayeeId | null },
  by: Minor,
  bank: Minor,
) {
  const [first] = documents;
  const side = first?.side ?? sideOfCredit(by);
  const isOne = documents.every((each) => each.payeeId === first?.payeeId && each.side === side);
  const whose = first?.payeeId ?? payeeId;
  if (!whose || !isOne || side !== sideOfCredit(by) || Math.sign(by) !== Math.sign(bank)) {
    fail('PAIR_ON_ACCOUNT');
  }
  return { side, payeeId: whose, amount: -by };
}
