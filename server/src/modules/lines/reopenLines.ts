import type { LinesDone } from '@zubrell/contract/desk';
import { groupBy } from '@zubrell/core/groupBy';
import type { DecisionId, LineId } from '@zubrell/core/ids';
import { linesSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { stepsBehind } from '../steps/dependencies.ts';
import { inTheWayOf, putItems } from '../steps/putItems.ts';
import { plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';
import { namesOfSteps } from '../steps/stepState.ts';
import { joinLiveDecision, lastChangeOfLine } from './lineState.ts';
import { ChangedLine, type LeftOut, leftOutFor, leftOutIfChanged } from './targetLines.ts';

const DecidedRow = ChangedLine.extend({
  decisionId: idRow<DecisionId>().nullable(),
  /** Its copy in the bank account that it was moved to, as long as nothing was decided there. */
  openCopyId: z.string().nullable(),
});
type DecidedRow = z.infer<typeof DecidedRow>;

/** Decided lines that are to be opened: how, and which can't be. */
export interface Opening {
  readonly items: readonly StepItem[];
  readonly done: readonly LineId[];
  readonly leftOut: readonly LeftOut[];
}

/**
 * What opens decided lines again. Lines that were decided together open together; a line on which something rests is
 * left out, with the steps that it is held by.
 */
export async function openingOf(
  command: BooksCommand,
  lineIds: readonly LineId[],
  seenStep: number,
): Promise<Opening> {
  const found = await decidedLines(command, lineIds);
  const known = new Set(found.map(({ id }) => id));
  const leftOut = lineIds
    .filter((id) => !known.has(id))
    .map((id) => leftOutFor(id, 'LINE_UNKNOWN'));
  const items: StepItem[] = [];
  const done: LineId[] = [];
  for (const lines of groupBy(found, ({ decisionId, id }) => decisionId ?? id).values()) {
    const refused = lines.flatMap((line) => refusal(line, seenStep) ?? []);
    const [first] = refused;
    if (first) {
      // One that stays keeps those that were decided together with it.
      const others = lines.filter(({ id }) => !refused.some(({ lineId }) => lineId === id));
      leftOut.push(...refused, ...others.map(({ id }) => ({ ...first, lineId: id })));
      continue;
    }
    const own = lines.flatMap(openingItems);
    const held = await heldBy(command, own);
    if (held !== null) leftOut.push(...lines.map(({ id }) => held(id)));
    else {
      items.push(...own);
      done.push(...lines.map(({ id }) => id));
    }
  }
  return { items, done, leftOut };
}

/** Leaves lines out whose items can't be put, as other steps rest on them; null where they can. */
export async function heldBy(
  command: BooksCommand,
  items: readonly StepItem[],
): Promise<((lineId: LineId) => LeftOut) | null> {
  const { taken } = await inTheWayOf(command, items);
  if (taken.length === 0) return null;
  const steps = namesOfSteps(await stepsBehind(command, taken));
  return (lineId) => leftOutFor(lineId, 'LINE_HELD', { steps });
}

/**
 * Opens decided lines again as one step: entries that posting made are voided and their coding stays as a draft;
 * what lines were paired with stays as it was, and documents that they paid are open again; excluded and deleted
 * lines are restored, and one that was moved to another bank account goes from there.
 */
export async function reopenLines(
  command: BooksCommand,
  lineIds: readonly LineId[],
  seenStep: number,
): Promise<LinesDone> {
  const opening = await openingOf(command, lineIds, seenStep);
  const [done, leftOut] = [[...opening.done], [...opening.leftOut]];
  if (done.length === 0) return { step: null, words: 'No lines reopened', done, leftOut };
  await putItems(command, opening.items);
  const words = say`Reopened ${linesSaid(done.length)}`;
  await recordStep(command, { kind: 'reopen', words, items: opening.items });
  return { step: command.step, words: plainWords(words), done, leftOut };
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
    sql`select l.id, dl.decision_id as "decisionId", ${lastChangeOfLine},
          (select copy.id from lines copy
            where copy.books_id = l.books_id and copy.moved_from = l.id and copy.is_own
              and not exists (select from decision_lines there
                where there.books_id = copy.books_id and there.line_id = copy.id and there.is_live)
            limit 1) as "openCopyId"
        from lines l
        ${joinLiveDecision}
        where l.books_id = ${booksId} and (l.id = any(${ids}::uuid[]) or l.id in (
          select mate.line_id from decision_lines own
          join decision_lines mate on mate.books_id = own.books_id
            and mate.decision_id = own.decision_id and mate.is_live
          where own.books_id = ${booksId} and own.is_live and own.line_id = any(${ids}::uuid[])))
        for update of l`,
  );
}
