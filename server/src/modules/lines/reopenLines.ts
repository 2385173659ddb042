import type { LinesDone, ReopenLines } from '@zubrell/contract/desk';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { applyItems } from '../steps/applyItems.ts';
import { recordStep, type StepItem, takeStepNumber } from '../steps/recordStep.ts';
import { countLines } from './postLines.ts';
import { leftOutFor } from './targetLines.ts';

interface DecidedRow {
  readonly id: string;
  readonly lastStep: number;
  readonly decisionId: string | null;
  readonly changedBy: string | null;
  readonly changedWhat: string | null;
}

/**
 * Opens decided lines again, each by itself, as one step: entries are voided and their coding stays as
 * a draft, excluded and deleted lines are restored.
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
    sql`select l.id, l.last_step as "lastStep", dl.decision_id as "decisionId",
          u.name as "changedBy", s.words as "changedWhat"
        from lines l
        left join decision_lines dl
          on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
        left join steps s on s.books_id = l.books_id and s.no = l.last_step
        left join users u on u.id = s.user_id
        where l.books_id = ${booksId} and l.id = any(${sql.param(lineIds)}::uuid[])
        for update of l`,
  );
  const leftOut = found.flatMap((line) => {
    if (line.lastStep > seenStep) {
      const params = { who: line.changedBy ?? '', what: line.changedWhat ?? '' };
      return [leftOutFor(line.id, 'LINE_CHANGED', params)];
    }
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
