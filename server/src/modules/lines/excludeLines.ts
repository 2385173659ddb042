import { randomUUID } from 'node:crypto';
import type { ExcludeLines, KeptOutReason, LinesDone } from '@zubrell/contract/desk';
import { excludeReasons } from '@zubrell/core/ledger/excludeReasons';
import { type Proposal, ruleOf } from '@zubrell/core/propose/proposal';
import { bulkInsert } from '../../db/bulkInsert.ts';
import type { Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { openingDates } from '../books/openingBalance.ts';
import { booksCurrency } from '../books/queries.ts';
import { recordStep, type StepItem, takeStepNumber } from '../steps/recordStep.ts';
import { countLines, settleLines } from './postLines.ts';
import { leftOutFor, type TargetLine, targetLines } from './targetLines.ts';

/**
 * Excludes or deletes open lines for one reason, as one step. A line dated after the opening balance can't be
 * excluded as before it; such lines are left out and named.
 */
export async function excludeLines(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  { target, reason, as: kind, seenStep }: ExcludeLines,
): Promise<LinesDone> {
  const currency = await booksCurrency(tx, booksId);
  const found = await targetLines(tx, booksId, currency, target, seenStep);
  const leftOut = [...found.leftOut];
  const openings = reason === 'beforeOpening' ? await openingDates(tx, booksId) : null;
  const lines = found.lines.filter((line) => {
    const opening = openings?.get(line.ledgerAccountId) ?? '';
    if (openings === null || line.date <= opening) return true;
    const params = { date: line.date, opening: opening || '—' };
    const code = 'EXCLUDE_NOT_BEFORE';
    leftOut.push(leftOutFor(line.id, code, params));
    return false;
  });
  if (lines.length === 0) return { step: null, words: 'Nothing excluded', done: [], leftOut };
  const step = await takeStepNumber(tx, booksId);
  const items = await insertKeptOut(tx, booksId, step, lines, kind, reason);
  await settleLines(tx, booksId, step, lines);
  const verb = kind === 'excluded' ? 'Excluded' : 'Deleted';
  const words = `${verb} ${countLines(lines.length)}: ${excludeReasons[reason]}`;
  await recordStep(tx, services, booksId, actor, step, {
    kind: kind === 'excluded' ? 'exclude' : 'delete',
    words,
    items,
  });
  return { step, words, done: lines.map((line) => line.id), leftOut };
}

/**
 * Writes decisions that keep lines out of the books.
 *
 * @param isOne whether they are kept out together, by one decision
 * @returns what the step touched
 */
export async function insertKeptOut(
  tx: Tx,
  booksId: string,
  step: number,
  lines: readonly (Pick<TargetLine, 'id'> & Partial<Pick<TargetLine, 'proposal'>>)[],
  kind: 'excluded' | 'deleted',
  reason: KeptOutReason,
  isOne = false,
): Promise<StepItem[]> {
  const shared = randomUUID();
  const made = lines.map((line) => ({ line, decisionId: isOne ? shared : randomUUID() }));
  await bulkInsert(
    tx,
    'decisions',
    {
      books_id: 'uuid',
      id: 'uuid',
      kind: 'text',
      reason: 'text',
      proposed_by: 'text',
      rule_id: 'uuid',
      is_kept: 'boolean',
      step: 'bigint',
    },
    (isOne ? made.slice(0, 1) : made).map(({ decisionId, line }) => {
      const proposal = (line.proposal ?? null) as Proposal | null;
      return {
        books_id: booksId,
        id: decisionId,
        kind,
        reason,
        proposed_by: proposal?.source ?? null,
        rule_id: ruleOf(proposal),
        is_kept: proposal?.kind === 'exclude' && proposal.reason === reason,
        step,
      };
    }),
  );
  await bulkInsert(
    tx,
    'decision_lines',
    { books_id: 'uuid', decision_id: 'uuid', line_id: 'uuid' },
    made.map(({ line, decisionId }) => ({
      books_id: booksId,
      decision_id: decisionId,
      line_id: line.id,
    })),
  );
  return made.map(({ line, decisionId }) => ({
    thing: 'line',
    thingId: line.id,
    before: { decisionId: null },
    after: { decisionId },
  }));
}
