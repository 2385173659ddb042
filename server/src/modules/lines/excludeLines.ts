import { randomUUID } from 'node:crypto';
import type { ExcludeLines, KeptOutReason, LinesDone } from '@zubrell/contract/desk';
import { excludeReasons } from '@zubrell/core/ledger/excludeReasons';
import { type Proposal, ruleOf } from '@zubrell/core/propose/proposal';
import { openingDates } from '../books/openingBalance.ts';
import { booksCurrency } from '../books/queries.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordStep, type StepItem } from '../steps/recordStep.ts';
import { insertDecisions } from './insertDecisions.ts';
import { countLines, settleLines } from './postLines.ts';
import { leftOutFor, type TargetLine, targetLines } from './targetLines.ts';

/**
 * Excludes or deletes open lines for one reason, as one step. A line dated after the opening balance can't be
 * excluded as before it; such lines are left out and named.
 */
export async function excludeLines(
  command: BooksCommand,
  { target, reason, as: kind, seenStep }: ExcludeLines,
): Promise<LinesDone> {
  const { tx, booksId, step } = command;
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
  const items = await insertKeptOut(command, lines, kind, reason);
  await settleLines(command, lines);
  const verb = kind === 'excluded' ? 'Excluded' : 'Deleted';
  const words = `${verb} ${countLines(lines.length)}: ${excludeReasons[reason]}`;
  await recordStep(command, {
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
  command: BooksCommand,
  lines: readonly (Pick<TargetLine, 'id'> & Partial<Pick<TargetLine, 'proposal'>>)[],
  kind: 'excluded' | 'deleted',
  reason: KeptOutReason,
  isOne = false,
): Promise<StepItem[]> {
  const each = lines.map((line) => {
    const proposal = (line.proposal ?? null) as Proposal | null;
    return {
      id: randomUUID(),
      kind,
      reason,
      proposedBy: proposal?.source ?? null,
      ruleId: ruleOf(proposal),
      isKept: proposal?.kind === 'exclude' && proposal.reason === reason,
      lineIds: [line.id],
    };
  });
  const all = each
    .slice(0, 1)
    .map((decision) => ({ ...decision, lineIds: lines.map(({ id }) => id) }));
  return insertDecisions(command, isOne ? all : each);
}
