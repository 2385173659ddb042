import { fail } from '../errors.ts';
import type { Leg } from '../ledger/buildLegs.ts';
import type { DocumentSide } from '../ledger/documents.ts';
import { type Minor, sumMinor } from '../money/minor.ts';
import type { Candidate } from './pairing.ts';
import { isDocument } from './pairing.ts';

/** A line that is paired. */
export interface SettledLine {
  readonly date: string;
  readonly amount: Minor;
}

/** What it is paired with. */
export interface SettledTarget
  extends Pick<Candidate, 'id' | 'kind' | 'amount' | 'dueDate' | 'date' | 'payeeId'> {
  readonly side: DocumentSide | null;
  /** The document that is settled, or of which a payment came back. */
  readonly documentId: string | null;
}

/** What becomes of a difference; its legs where it is coded. */
export type SettledDifference =
  | { readonly kind: 'partPaid' }
  | { readonly kind: 'onAccount' }
  | { readonly kind: 'code'; readonly legs: readonly Leg[] };

/** An entry that a pairing makes. Its first leg is the bank's. */
export interface SettlementEntry {
  readonly date: string;
  readonly legs: readonly Leg[];
}

/** What a pairing makes. */
export interface Settlement {
  readonly entries: readonly SettlementEntry[];
  /** How much of each document is settled, signed like the document; the other way where a payment came back. */
  readonly allocations: readonly { readonly documentId: string; readonly amount: Minor }[];
  /** What stays as credit with a payee, as the amount of its document. */
  readonly credit: {
    readonly side: DocumentSide;
    readonly payeeId: string;
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
 * documents are paid by new ones: one for each line where only documents are paid, else one for all that is left.
 *
 * @param lines in the order of time, all of one bank account
 * @throws {ZubrellError} PAIR_UNBALANCED, PAIR_NO_DIFFERENCE, PAIR_PART_PAID, PAIR_ON_ACCOUNT
 * @example a line of 98.60, an invoice of 100.00 and bank charges of 1.40: bank +98.60, charges +1.40,
 * receivables −100.00, and all of the invoice settled
 */
export function settlePairing(
  lines: readonly SettledLine[],
  targets: readonly SettledTarget[],
  difference: SettledDifference | null,
  accounts: SettlementAccounts,
): Settlement {
  const bank = sumMinor(lines.map(({ amount }) => amount));
  const by = bank - sumMinor(targets.map(({ amount }) => amount));
  if (by !== 0 && difference === null) fail('PAIR_UNBALANCED');
  if (by === 0 && difference !== null) fail('PAIR_NO_DIFFERENCE');
  const documents = targets.filter(isDocument);
  const short = difference?.kind === 'partPaid' ? partPaid(documents, by) : null;
  const allocations = documents.map(({ id, documentId, amount }) => ({
    targetId: id,
    documentId: documentId ?? id,
    amount: id === short ? amount + by : amount,
  }));
  const credit = difference?.kind === 'onAccount' ? creditOf(documents, by, bank) : null;
  const paid = new Map(allocations.map(({ targetId, amount }) => [targetId, amount]));
  const others: Leg[] = [
    ...documents.map((document) => control(accounts, document.side, -(paid.get(document.id) ?? 0))),
    ...(credit ? [control(accounts, credit.side, credit.amount)] : []),
    ...(difference?.kind === 'code' ? difference.legs : []),
  ];
  const known = sumMinor(targets.filter((each) => !isDocument(each)).map(({ amount }) => amount));
  const isByLine =
    targets.length === documents.length &&
    lines.length > 1 &&
    others.every(({ amount }) => amount < 0 === bank > 0) &&
    lines.every(({ amount }) => amount > 0 === bank > 0);
  const entries =
    others.length === 0
      ? []
      : isByLine
        ? entriesByLine(lines, others, accounts.bank)
        : [
            {
              date: lines.at(-1)?.date ?? '',
              legs: [bankLeg(accounts.bank, bank - known), ...others],
            },
          ];
  return {
    entries,
    allocations: byDocument(allocations),
    credit,
  };
}

/** What is settled of each document: two payments of one may come back together. */
function byDocument(allocations: Settlement['allocations']): Settlement['allocations'] {
  const amounts = new Map<string, Minor>();
  for (const { documentId, amount } of allocations) {
    amounts.set(documentId, (amounts.get(documentId) ?? 0) + amount);
  }
  return [...amounts].map(([documentId, amount]) => ({ documentId, amount }));
}

const bankLeg = (accountId: string, amount: Minor): Leg => ({
  accountId,
  amount,
  taxCodeId: null,
  role: 'bank',
});

function control(
  { receivables, payables }: SettlementAccounts,
  side: DocumentSide | null,
  amount: Minor,
): Leg {
  const accountId = side === 'payables' ? payables : receivables;
  return { accountId, amount, taxCodeId: null, role: 'control' };
}

/** The document of which a part stays open: the last that is due. */
function partPaid(documents: readonly SettledTarget[], by: Minor): string {
  const latest = [...documents]
    .sort((a, b) => ((a.dueDate ?? a.date) < (b.dueDate ?? b.date) ? 1 : -1))
    .find(({ amount }) => Math.sign(by) === -Math.sign(amount) && Math.abs(by) < Math.abs(amount));
  return latest?.id ?? fail('PAIR_PART_PAID');
}

/** Too much was paid: the rest is the payee's. */
function creditOf(documents: readonly SettledTarget[], by: Minor, bank: Minor) {
  const [first] = documents;
  const isOne = documents.every(
    ({ payeeId, side }) => payeeId === first?.payeeId && side === first?.side,
  );
  if (!first?.payeeId || !first.side || !isOne || Math.sign(by) !== Math.sign(bank)) {
    fail('PAIR_ON_ACCOUNT');
  }
  return { side: first.side, payeeId: first.payeeId, amount: -by };
}

/** An entry for each line: what is settled is used up in its order. */
function entriesByLine(
  lines: readonly SettledLine[],
  others: readonly Leg[],
  bankId: string,
): readonly SettlementEntry[] {
  const left = others.map((leg) => ({ ...leg }));
  return lines.map(({ date, amount }) => {
    const legs: Leg[] = [bankLeg(bankId, amount)];
    let wanted = -amount;
    for (const leg of left) {
      if (wanted === 0) break;
      if (leg.amount === 0) continue;
      const used = Math.abs(leg.amount) <= Math.abs(wanted) ? leg.amount : wanted;
      legs.push({ ...leg, amount: used });
      leg.amount -= used;
      wanted -= used;
    }
    return { date, legs };
  });
}
