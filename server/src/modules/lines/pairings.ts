import { randomUUID } from 'node:crypto';
import type { DifferenceAnswer } from '@zubrell/contract/pairing';
import type { DecisionId, LegId } from '@zubrell/core/ids';
import type { PostedWay } from '@zubrell/core/ledger/decisions';
import { isDocument } from '@zubrell/core/pair/pairing';
import {
  type SettledDifference,
  type SettlementAccounts,
  settlePairing,
} from '@zubrell/core/pair/settlePairing';
import type { Proposal } from '@zubrell/core/propose/proposal';
import type { BooksMoney } from '../books/money.ts';
import { needs } from '../books/needsOf.ts';
import { insertDecisions, type NewAllocation } from '../decisions/insertDecisions.ts';
import type { BooksCandidate } from '../ledger/candidates.ts';
import { insertEntries, type NewEntry } from '../ledger/insertEntries.ts';
import { insertDocuments, type NewDocumentRow } from '../ledger/setDocument.ts';
import { type PaidCandidate, takenIn, worthOf } from '../ledger/settledWorths.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import type { Need, StepItem } from '../steps/recordStep.ts';
import { bankFactsOf, type TargetLine } from './targetLines.ts';

/** Rows that one pairing makes. */
export interface PairingPlan {
  readonly decisionId: DecisionId;
  readonly lines: readonly TargetLine[];
  readonly targets: readonly BooksCandidate[];
  readonly entries: readonly NewEntry[];
  readonly legIds: readonly LegId[];
  readonly allocations: readonly NewAllocation[];
  /** What is left over, as a document of its own. */
  readonly credit: NewDocumentRow | null;
  readonly difference: DifferenceAnswer | null;
  readonly isKept: boolean;
}

/** What is said of a difference. */
export interface PairingAnswer {
  readonly difference: SettledDifference | null;
  /** It is what the bank's own rate made of a move between currencies: nothing was gained or lost. */
  readonly isRestated?: boolean;
  /** As it is remembered. */
  readonly answer?: DifferenceAnswer | null;
}

/**
 * What pairing lines of one bank account with what stands in the books makes.
 *
 * @throws {ZubrellError} the errors of `settlePairing`
 */
export function pairingPlan(
  {
    lines,
    targets,
  }: { readonly lines: readonly TargetLine[]; readonly targets: readonly PaidCandidate[] },
  { difference, isRestated = false, answer = null }: PairingAnswer,
  accounts: Pick<SettlementAccounts, 'receivables' | 'payables'>,
  money: BooksMoney,
): PairingPlan {
  const [first] = lines;
  const bank = first?.ledgerAccountId ?? '';
  const settlement = settlePairing(lines, targets, difference, { ...accounts, bank });
  const currency = first?.currency ?? money.own;
  const allocations = worthOf(settlement.allocations, targets, currency, money.own);
  const taken = takenIn(
    settlement,
    allocations,
    { targets, accounts, currency, isRestated },
    money,
  );
  const entries = settlement.entries.map(
    ({ date }, at): NewEntry => ({
      id: randomUUID(),
      date,
      kind: 'settlement',
      payeeId: settlement.credit?.payeeId ?? onlyPayee(targets),
      note: answer?.kind === 'code' ? answer.reason : null,
      ...(first ? bankFactsOf(first) : {}),
      exchange: taken.exchange,
      legs: (taken.entries[at] ?? []).map((leg) => ({ ...leg, id: randomUUID() })),
    }),
  );
  const last = entries.at(-1);
  const credit =
    settlement.credit === null || !last
      ? null
      : {
          id: randomUUID(),
          kind: 'credit' as const,
          ...settlement.credit,
          number: null,
          date: last.date,
          dueDate: null,
          exchange: taken.exchange,
          worth: taken.creditWorth,
          lines: [],
          note: null,
          entryId: last.id,
        };
  return {
    decisionId: randomUUID(),
    lines,
    targets,
    entries,
    legIds: [
      ...targets.filter((target) => !isDocument(target)).map(({ id }) => id),
      ...entries.flatMap(({ legs }) => legs[0]?.id ?? []),
    ],
    allocations,
    credit,
    difference: answer,
    isKept: lines.every(({ proposal }) => isProposed(proposal, targets)),
  };
}

/** The payee of all of these; null where they are of several, of nobody, or moves between own accounts. */
export function onlyPayee(
  targets: readonly Pick<BooksCandidate, 'kind' | 'payeeId'>[],
): string | null {
  const [first] = targets;
  const isOne = targets.every(
    ({ kind, payeeId }) => kind !== 'transfer' && payeeId === first?.payeeId,
  );
  return first && isOne ? first.payeeId : null;
}

/** Whether just that was proposed. */
function isProposed(proposal: Proposal | null, targets: readonly BooksCandidate[]): boolean {
  if (proposal?.kind !== 'pair') return false;
  const ids = (each: readonly { readonly id: string }[]) =>
    each
      .map(({ id }) => id)
      .sort()
      .join();
  return ids(proposal.targets) === ids(targets);
}

/**
 * Writes pairings: their entries, decisions, and what they settle of documents.
 *
 * @returns what the step touched
 */
export async function insertPairings(
  command: BooksCommand,
  way: PostedWay,
  plans: readonly PairingPlan[],
): Promise<StepItem[]> {
  if (plans.length === 0) return [];
  await insertEntries(
    command,
    plans.flatMap(({ entries }) => entries),
  );
  await insertDocuments(
    command,
    plans.flatMap(({ credit }) => credit ?? []),
  );
  return insertDecisions(
    command,
    plans.map(({ decisionId, lines, legIds, allocations, difference, isKept }) => ({
      id: decisionId,
      kind: 'paired',
      proposedBy: lines[0]?.proposal?.source ?? null,
      isKept,
      way,
      difference,
      lineIds: lines.map(({ id }) => id),
      legIds,
      allocations,
    })),
  );
}

/**
 * What has to be there for pairings to hold: the entries and documents that lines were paired with, and of a payment
 * that came back the payment itself.
 */
export function needsOfPlans(plans: readonly PairingPlan[]): Need[] {
  return plans.flatMap(({ targets, difference, credit }) => [
    ...needs(
      'entry',
      targets.map(({ documentId, entryId }) => (documentId === null ? entryId : null)),
    ),
    ...needs(
      'document',
      targets.map(({ documentId }) => documentId),
    ),
    ...needs(
      'decision',
      targets.map(({ paymentId }) => paymentId),
    ),
    ...needs('account', [difference?.kind === 'code' ? difference.accountId : null]),
    ...needs('payee', [credit?.payeeId]),
  ]);
}
