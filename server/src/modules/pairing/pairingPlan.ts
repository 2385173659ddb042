import { randomUUID } from 'node:crypto';
import type { DifferenceAnswer } from '@zubrell/contract/pairing';
import { isDocument } from '@zubrell/core/pair/pairing';
import {
  type SettledDifference,
  type SettlementAccounts,
  settlePairing,
} from '@zubrell/core/pair/settlePairing';
import type { Proposal } from '@zubrell/core/propose/proposal';
import { bulkInsert } from '../../db/bulkInsert.ts';
import type { Tx } from '../../db/database.ts';
import { insertEntries, type NewEntry } from '../ledger/insertEntries.ts';
import type { PostedWay } from '../lines/postings.ts';
import type { TargetLine } from '../lines/targetLines.ts';
import type { StepItem } from '../steps/recordStep.ts';
import type { BooksCandidate } from './candidates.ts';

/** Rows that one pairing makes. */
export interface PairingPlan {
  readonly decisionId: string;
  readonly lines: readonly TargetLine[];
  readonly targets: readonly BooksCandidate[];
  readonly entries: readonly NewEntry[];
  readonly legIds: readonly string[];
  readonly allocations: readonly { readonly documentId: string; readonly amount: number }[];
  readonly credit: {
    readonly id: string;
    readonly side: string;
    readonly payeeId: string;
    readonly amount: number;
    readonly entryId: string;
    readonly date: string;
  } | null;
  readonly difference: unknown;
  readonly isKept: boolean;
}

/**
 * What pairing lines of one bank account with what stands in the books makes.
 *
 * @param answer what is said of a difference, as it is remembered
 * @throws {ZubrellError} the errors of `settlePairing`
 */
export function pairingPlan(
  lines: readonly TargetLine[],
  targets: readonly BooksCandidate[],
  difference: SettledDifference | null,
  accounts: Pick<SettlementAccounts, 'receivables' | 'payables'>,
  answer: DifferenceAnswer | null = null,
): PairingPlan {
  const [first] = lines;
  const bank = first?.ledgerAccountId ?? '';
  const settlement = settlePairing(lines, targets, difference, { ...accounts, bank });
  const payeeIds = new Set(targets.map(({ payeeId }) => payeeId));
  const [onlyPayee = null] = payeeIds.size === 1 ? payeeIds : [];
  const entries = settlement.entries.map(
    ({ date, legs }): NewEntry => ({
      id: randomUUID(),
      date,
      kind: 'settlement',
      payeeId: targets.some(isDocument) ? onlyPayee : null,
      note: answer?.kind === 'code' ? answer.reason : null,
      legs: legs.map((leg) => ({ ...leg, id: randomUUID() })),
    }),
  );
  const last = entries.at(-1);
  const credit =
    settlement.credit === null || !last
      ? null
      : { id: randomUUID(), ...settlement.credit, entryId: last.id, date: last.date };
  return {
    decisionId: randomUUID(),
    lines,
    targets,
    entries,
    legIds: [
      ...targets.filter((target) => !isDocument(target)).map(({ id }) => id),
      ...entries.flatMap(({ legs }) => legs[0]?.id ?? []),
    ],
    allocations: settlement.allocations,
    credit,
    difference: answer,
    isKept: lines.every(({ proposal }) => isProposed(proposal as Proposal | null, targets)),
  };
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
  tx: Tx,
  booksId: string,
  step: number,
  way: PostedWay,
  plans: readonly PairingPlan[],
): Promise<StepItem[]> {
  if (plans.length === 0) return [];
  await insertEntries(
    tx,
    booksId,
    step,
    plans.flatMap(({ entries }) => entries),
  );
  await bulkInsert(
    tx,
    'decisions',
    {
      books_id: 'uuid',
      id: 'uuid',
      kind: 'text',
      proposed_by: 'text',
      is_kept: 'boolean',
      way: 'text',
      difference: 'jsonb',
      step: 'bigint',
    },
    plans.map(({ decisionId, lines, difference, isKept }) => ({
      books_id: booksId,
      id: decisionId,
      kind: 'paired',
      proposed_by: (lines[0]?.proposal as Proposal | null)?.source ?? null,
      is_kept: isKept,
      way,
      difference,
      step,
    })),
  );
  const ties = { books_id: 'uuid', decision_id: 'uuid' } as const;
  const tied = <Row>(of: (plan: PairingPlan) => readonly Row[]) =>
    plans.flatMap((plan) =>
      of(plan).map((row) => ({ books_id: booksId, decision_id: plan.decisionId, ...row })),
    );
  await bulkInsert(
    tx,
    'decision_lines',
    { ...ties, line_id: 'uuid' },
    tied(({ lines }) => lines.map(({ id }) => ({ line_id: id }))),
  );
  await bulkInsert(
    tx,
    'decision_legs',
    { ...ties, leg_id: 'uuid' },
    tied(({ legIds }) => legIds.map((id) => ({ leg_id: id }))),
  );
  await bulkInsert(
    tx,
    'documents',
    {
      books_id: 'uuid',
      id: 'uuid',
      kind: 'text',
      side: 'text',
      payee_id: 'uuid',
      date: 'date',
      amount: 'bigint',
      lines: 'jsonb',
      entry_id: 'uuid',
      step: 'bigint',
      last_step: 'bigint',
    },
    plans.flatMap(({ credit }) =>
      credit === null
        ? []
        : [
            {
              books_id: booksId,
              id: credit.id,
              kind: 'credit',
              side: credit.side,
              payee_id: credit.payeeId,
              date: credit.date,
              amount: credit.amount,
              lines: [],
              entry_id: credit.entryId,
              step,
              last_step: step,
            },
          ],
    ),
  );
  await bulkInsert(
    tx,
    'allocations',
    { ...ties, document_id: 'uuid', amount: 'bigint' },
    tied(({ allocations }) =>
      allocations.map(({ documentId, amount }) => ({ document_id: documentId, amount })),
    ),
  );
  return plans.flatMap(({ lines, targets, decisionId }) => [
    ...lines.map(
      ({ id }): StepItem => ({
        thing: 'line',
        thingId: id,
        before: { decisionId: null },
        after: { decisionId },
      }),
    ),
    // So that whoever takes back what it was paired with learns of this step.
    ...targets.map(
      (target): StepItem => ({
        thing: 'tied',
        thingId: target.documentId ?? target.entryId,
        before: null,
        after: null,
      }),
    ),
  ]);
}
