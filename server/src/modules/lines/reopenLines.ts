import type { LinesDone, ReopenLines } from '@zubrell/contract/desk';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { applyItems } from '../steps/applyItems.ts';
import { recordStep, type StepItem, takeStepNumber } from '../steps/recordStep.ts';
import { joinLastChange, joinLiveDecision, lastChangeColumns } from './lineState.ts';
import { countLines } from './postLines.ts';
import { type ChangedLine, leftOutFor, leftOutIfChanged } from './targetLines.ts';

interface DecidedRow extends ChangedLine {
  readonly decisionId: string | null;
}

/**
 * Opens decided lines again as one step: entries that posting made are voided and their coding stays as a draft;
 * what lines were paired with stays as it was, and documents that they paid are open again; excluded and deleted
 * lines are restored. Lines that were paired together open together.
 */
export async function reopenLines(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  { lineIds, seenStep }: ReopenLines,
): Promise<LinesDone> {
  const found = await rowsOf<DecidedRow>(
    tx,
    sql`select l.id, dl.decision_id as "decisionId", ${lastChangeColumns}
        from lines l ${joinLiveDecision} ${joinLastChange}
        where l.books_id = ${booksId} and (l.id = any(${sql.param(lineIds)}::uuid[]) or l.id in (
          select mate.line_id from decision_lines own
          join decision_lines mate on mate.books_id = own.books_id
            and mate.decision_id = own.decision_id and mate.is_live
          where own.books_id = ${booksId} and own.is_live
            and own.line_id = any(${sql.param(lineIds)}::uuid[])))
        for update of l`,
  );
  const leftOut = found.flatMap((line) => {
    const changed = leftOutIfChanged(line, seenStep);
    if (changed) return [changed];
    return line.decisionId === null ? [leftOutFor(line.id, 'LINE_DECIDED', { state: 'open' })] : [];
  });
  const isLeft = new Set(leftOut.map(({ lineId }) => lineId));
  const decided = found.filter((line) => !isLeft.has(line.id));
  if (decided.length === 0) return { step: null, words: 'Nothing opened', done: [], leftOut };
  const step = await takeStepNumber(tx, booksId);
  const items = decided.map(
    ({ id, decisionId }): StepItem => ({
      thing: 'line',
      thingId: id,
      before: { decisionId },
      after: { decisionId: null },
    }),
  );
  await applyItems(tx, services, booksId, actor, step, items, () => '');
  const words = `Opened ${countLines(decided.length)} again`;
  await recordStep(tx, services, booksId, actor, step, { kind: 'reopen', words, items });
  return { step, words, done: decided.map(({ id }) => id), leftOut };
}
