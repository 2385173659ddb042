import type { DocumentId, LegId, LineId } from '@zubrell/core/ids';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { together } from '../../db/database.ts';
import type { decisions } from '../../db/schema/ledger.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import type { StepItem } from '../steps/recordStep.ts';

/** How much of a document is settled, signed like it, and what stood in the books for it in another currency. */
export interface NewAllocation {
  readonly documentId: DocumentId;
  readonly amount: number;
  readonly worth?: number | null;
}

/** A decision to write: what was said, and what it ties together. */
export interface NewDecision
  extends Omit<typeof decisions.$inferInsert, 'booksId' | 'step' | 'coding' | 'difference'> {
  readonly coding?: object;
  readonly difference?: object | null;
  readonly lineIds?: readonly LineId[];
  readonly legIds?: readonly LegId[];
  /** How much of which documents it settles, signed like them. */
  readonly allocations?: readonly NewAllocation[];
}

/**
 * Writes decisions, with their ties to lines and bank legs and what they settle of documents.
 *
 * @returns what the step touched of lines
 */
export async function insertDecisions(
  { tx, booksId, step }: BooksCommand,
  made: readonly NewDecision[],
): Promise<StepItem[]> {
  const decisionsIn = bulkInsert(
    tx,
    'decisions',
    {
      books_id: 'uuid',
      id: 'uuid',
      kind: 'text',
      reason: 'text',
      coding: 'jsonb',
      proposed_by: 'text',
      rule_id: 'uuid',
      is_kept: 'boolean',
      odds: 'real',
      is_account_kept: 'boolean',
      way: 'text',
      difference: 'jsonb',
      is_once: 'boolean',
      copy_of: 'uuid',
      step: 'bigint',
    },
    made.map((each) => ({
      books_id: booksId,
      id: each.id,
      kind: each.kind,
      reason: each.reason,
      coding: each.coding,
      proposed_by: each.proposedBy,
      rule_id: each.ruleId,
      is_kept: each.isKept ?? false,
      odds: each.odds,
      is_account_kept: each.isAccountKept ?? false,
      way: each.way,
      difference: each.difference,
      is_once: each.isOnce ?? false,
      copy_of: each.copyOf,
      step,
    })),
  );
  const ties = { books_id: 'uuid', decision_id: 'uuid' } as const;
  const tied = <Row>(of: (decision: NewDecision) => readonly Row[] | undefined) =>
    made.flatMap((decision) =>
      (of(decision) ?? []).map((row) => ({ books_id: booksId, decision_id: decision.id, ...row })),
    );
  const lines = tied(({ lineIds }) => lineIds?.map((id) => ({ line_id: id })));
  await together(
    decisionsIn,
    bulkInsert(tx, 'decision_lines', { ...ties, line_id: 'uuid' }, lines),
    bulkInsert(
      tx,
      'decision_legs',
      { ...ties, leg_id: 'uuid' },
      tied(({ legIds }) => legIds?.map((id) => ({ leg_id: id }))),
    ),
    bulkInsert(
      tx,
      'allocations',
      { ...ties, document_id: 'uuid', amount: 'bigint', worth: 'bigint' },
      tied(({ allocations }) =>
        allocations?.map(({ documentId, amount, worth = null }) => ({
          document_id: documentId,
          amount,
          worth,
        })),
      ),
    ),
  );
  return lines.map(
    ({ line_id: thingId, decision_id: decisionId }): StepItem => ({
      thing: 'line',
      thingId,
      before: { decisionId: null },
      after: { decisionId },
    }),
  );
}
