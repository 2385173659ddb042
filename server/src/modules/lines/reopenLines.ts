import type { LinesDone, ReopenLines } from '@zubrell/contract/desk';
import { groupBy } from '@zubrell/core/groupBy';
import type { DecisionId, LineId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { stepsBehind } from '../steps/dependencies.ts';
import { inTheWayOf, putItems } from '../steps/putItems.ts';
import { recordStep, type StepItem } from '../steps/recordStep.ts';
import { namesOfSteps } from '../steps/stepState.ts';
import { joinLastChange, joinLiveDecision, lastChangeColumns } from './lineState.ts';
import { countLines } from './postLines.ts';
import { ChangedLine, type LeftOut, leftOutFor, leftOutIfChanged } from './targetLines.ts';

const DecidedRow = ChangedLine.extend({
  decisionId: idRow<DecisionId>().nullable(),
  /** Its copy in the bank account that it was moved to, as long as nothing was decided there. */
  openCopyId: z.string().nullable(),
});
type DecidedRow = z.infer<typeof DecidedRow>;

/**
 * Opens decided lines again as one step: entries that posting made are voided and their coding stays as a draft;
 * what lines were paired with stays as it was, and documents that they paid are open again; excluded and deleted
 * lines are restored, and one that was moved to another bank account goes from there. Lines that were paired
 * together open together. A line on which something rests is left out, with the steps that it is held by.
 */
export async function reopenLines(
  command: BooksCommand,
  { lineIds, seenStep }: ReopenLines,
): Promise<LinesDone> {
  const found = await decidedLines(command, lineIds);
  const leftOut = found.flatMap((line) => refusal(line, seenStep) ?? []);
  const refused = new Set(leftOut.map(({ lineId }) => lineId));
  const items: StepItem[] = [];
  const done: string[] = [];
  for (const [decisionId, lines] of groupBy(found, (line) => line.decisionId)) {
    if (decisionId === null || lines.some(({ id }) => refused.has(id))) continue;
    const own = lines.flatMap(openingItems);
    const { taken } = await inTheWayOf(command, own);
    if (taken.length > 0) {
      const steps = namesOfSteps(await stepsBehind(command, taken));
      leftOut.push(...lines.map(({ id }) => leftOutFor(id, 'LINE_HELD', { steps })));
      continue;
    }
    items.push(...own);
    done.push(...lines.map(({ id }) => id));
  }
  if (done.length === 0) return { step: null, words: 'No lines reopened', done, leftOut };
  await putItems(command, items);
  const words = `Reopened ${countLines(done.length)}`;
  await recordStep(command, { kind: 'reopen', words, items });
  return { step: command.step, words, done, leftOut };
}

function refusal(line: DecidedRow, seenStep: number): LeftOut | null {
  const changed = leftOutIfChanged(line, seenStep);
  if (changed) return changed;
  return line.decisionId === null ? leftOutFor(line.id, 'LINE_DECIDED', { state: 'open' }) : null;
}

function openingItems({ id, decisionId, openCopyId }: DecidedRow): StepItem[] {
  const opened: StepItem = {
    thing: 'line',
    thingId: id,
    before: { decisionId },
    after: { decisionId: null },
  };
  if (openCopyId === null) return [opened];
  const gone = { before: { isHere: true }, after: { isHere: false } };
  return [opened, { thing: 'lineHere', thingId: openCopyId, ...gone }];
}

/** The lines with these ids and those that were decided together with them, locked. */
function decidedLines(
  { tx, booksId }: BooksCommand,
  lineIds: readonly LineId[],
): Promise<DecidedRow[]> {
  const ids = sql.param(lineIds);
  return rowsOf(
    tx,
    DecidedRow,
    sql`select l.id, dl.decision_id as "decisionId", ${lastChangeColumns},
          (select copy.id from lines copy
            where copy.books_id = l.books_id and copy.moved_from = l.id and copy.is_own
              and not exists (select from decision_lines there
                where there.books_id = copy.books_id and there.line_id = copy.id and there.is_live)
            limit 1) as "openCopyId"
        from lines l
        ${joinLiveDecision} ${joinLastChange}
        where l.books_id = ${booksId} and (l.id = any(${ids}::uuid[]) or l.id in (
          select mate.line_id from decision_lines own
          join decision_lines mate on mate.books_id = own.books_id
            and mate.decision_id = own.decision_id and mate.is_live
          where own.books_id = ${booksId} and own.is_live and own.line_id = any(${ids}::uuid[])))
        for update of l`,
  );
}
