import type { AccountId, DocumentId, LegId, LineId } from '@zubrell/core/ids';
import type { Coding } from '@zubrell/core/ledger/coding';
import { sql } from 'drizzle-orm';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { execute, together } from '../../db/database.ts';
import { refreshStatistics } from '../../db/refreshStatistics.ts';
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
  readonly coding?: Coding;
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
  command: BooksCommand,
  made: readonly NewDecision[],
): Promise<StepItem[]> {
  const { tx, booksId, step } = command;
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
  const lines = tied(({ lineIds, kind, coding, way }) => {
    const accountId = kind === 'posted' ? coding?.parts[0]?.accountId : null;
    const isUnseen = way === 'sweep' || way === 'rule';
    return lineIds?.map((lineId) => ({ lineId, accountId: accountId ?? null, isUnseen }));
  });
  await together(
    decisionsIn,
    tieLines(command, lines),
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
    ({ lineId: thingId, decision_id: decisionId }): StepItem => ({
      thing: 'line',
      thingId,
      before: { decisionId: null },
      after: { decisionId },
    }),
  );
}

interface LineTie {
  readonly decision_id: string;
  readonly lineId: LineId;
  readonly accountId: AccountId | null;
  readonly isUnseen: boolean;
}

/** Ties decisions to lines, with what each says of its line. */
async function tieLines(
  { tx, booksId, step }: BooksCommand,
  ties: readonly LineTie[],
): Promise<void> {
  if (ties.length === 0) return;
  const column = (type: string, of: (tie: LineTie) => unknown) =>
    sql`${sql.param(ties.map(of))}::${sql.raw(type)}[]`;
  const columns = [
    column('uuid', (tie) => tie.decision_id),
    column('uuid', ({ lineId }) => lineId),
    column('uuid', ({ accountId }) => accountId),
    column('boolean', ({ isUnseen }) => isUnseen),
  ];
  await together(
    execute(
      tx,
      // A line that isn't there has no day, which the database refuses.
      sql`insert into decision_lines (books_id, decision_id, line_id, date, amount, account_id, is_unseen, last_step)
          select ${booksId}, t.decision_id, t.line_id, l.date, l.amount, t.account_id, t.is_unseen, ${step}
          from unnest(${sql.join(columns, sql`, `)})
            as t (decision_id, line_id, account_id, is_unseen)
          left join lines l on l.books_id = ${booksId} and l.id = t.line_id`,
    ),
    refreshStatistics(tx, ['decision_lines'], ties.length),
  );
}
