import { type LinesDone, StepLines } from '@zubrell/contract/desk';
import { fail } from '@zubrell/core/errors';
import { groupBy } from '@zubrell/core/groupBy';
import type { LineId } from '@zubrell/core/ids';
import { linesSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { type BooksTx, countRows, rowsOf } from '../../db/database.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { itemsOfStep } from '../steps/dependencies.ts';
import { refuseOthersSteps } from '../steps/ownSteps.ts';
import { putItems, standingElsewhere } from '../steps/putItems.ts';
import { plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';
import { findBaseStep } from '../steps/stepState.ts';
import { joinLiveDecision } from './lineState.ts';
import { heldBy } from './reopenLines.ts';
import { type LeftOut, leftOutFor } from './targetLines.ts';

/** So many lines of a step are listed. */
const LISTED = 500;

const StepLineRow = StepLines.shape.lines.element;

/** The lines that a step decided about, and whether each still stands as it left them. */
export async function stepLines({ tx, booksId }: BooksTx, no: number): Promise<StepLines> {
  const ofStep = sql`from step_items i
    join lines l on l.books_id = i.books_id and l.id = i.thing_id
    ${joinLiveDecision}
    where i.books_id = ${booksId} and i.step_no = ${no} and i.thing = 'line'`;
  const lines = await rowsOf(
    tx,
    StepLineRow,
    sql`select l.id, l.bank_account_id as "bankAccountId", l.date, l.amount, l.description,
          dl.decision_id is not distinct from (i.after ->> 'decisionId')::uuid as "isStanding"
        ${ofStep} order by l.date desc, l.id desc limit ${LISTED}`,
  );
  const count = lines.length < LISTED ? lines.length : await countRows(tx, sql`select ${ofStep}`);
  return { count, lines };
}

/**
 * Takes back what a step decided of some of its lines, as a step of its own. Lines decided together go together; a
 * line that was decided otherwise since, or on which another step rests, stays and is named.
 *
 * @throws {ZubrellError} STEP_UNKNOWN, STEP_UNDONE, ROLE_TOO_LOW
 */
export async function undoLines(
  command: BooksCommand,
  no: number,
  lineIds: readonly LineId[],
): Promise<LinesDone> {
  const { tx, booksId } = command;
  const base = (await findBaseStep(tx, booksId, no)) ?? fail('STEP_UNKNOWN');
  if (base.isUndone) fail('STEP_UNDONE');
  await refuseOthersSteps(command, [no]);
  const wanted = new Set<string>(lineIds);
  const moves = (await itemsOfStep(command, no))
    .filter(({ thing }) => thing === 'line')
    .map((item): StepItem => ({ ...item, before: item.after, after: item.before }));
  const elsewhere = new Set(
    (await standingElsewhere(command, moves)).map(({ thingId }) => thingId),
  );
  const items: StepItem[] = [];
  const leftOut: LeftOut[] = [];
  for (const own of groupBy(moves, togetherWith).values()) {
    if (!own.some(({ thingId }) => wanted.has(thingId))) continue;
    const ids = own.map(({ thingId }): LineId => thingId);
    const isChanged = ids.some((id) => elsewhere.has(id));
    const held = isChanged ? null : await heldBy(command, own);
    if (isChanged)
      leftOut.push(...ids.map((id) => leftOutFor(id, 'LINE_DECIDED_SINCE', { step: no })));
    else if (held !== null) leftOut.push(...ids.map(held));
    else items.push(...own);
  }
  const done = items.map(({ thingId }) => thingId);
  if (done.length === 0) return { step: null, words: 'No lines undone', done, leftOut };
  await putItems(command, items);
  const words = say`Undid ${linesSaid(done.length)} of ${moves.length} of step ${no}: ${base.said ?? base.words}`;
  await recordStep(command, { kind: 'undoLines', words, items });
  return { step: command.step, words: plainWords(words), done, leftOut };
}

/** What lines have in common that a step decided about together. */
function togetherWith({ thingId, before }: StepItem): string {
  return typeof before?.decisionId === 'string' ? before.decisionId : thingId;
}
