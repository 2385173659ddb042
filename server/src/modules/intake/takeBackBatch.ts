import type { StepDone } from '@zubrell/contract/common';
import type { TakeBackBatch } from '@zubrell/contract/intake';
import { fail } from '@zubrell/core/errors';
import type { BatchId, BooksId, DecisionId, LineId } from '@zubrell/core/ids';
import { countSaid, linesSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { linesOnlyIn } from '../lines/lineHereThing.ts';
import { withResting } from '../lines/restingItems.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { putItems } from '../steps/putItems.ts';
import { plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';
import { apartOf, goesAway } from './keepApart.ts';
import { batchOf } from './queries.ts';

/**
 * Takes a kept batch back whole, as one step: open lines that no other batch has seen go, decided ones
 * stay, or are undone and go too.
 *
 * @throws {ZubrellError} NOT_FOUND, BATCH_NOT_KEPT, PERIOD_CLOSED
 */
export async function takeBackBatch(
  command: BooksCommand,
  batchId: BatchId,
  { decided }: TakeBackBatch,
): Promise<StepDone> {
  const { tx, booksId, step } = command;
  const batch = await keptBatch(tx, booksId, batchId);
  const ownDecided = await decidedOnlyHere(tx, booksId, batchId);
  const apart = await apartOf(tx, booksId, batchId);
  const going = apart.filter(({ isDecided }) => decided === 'undo' || !isDecided);
  const staying = decided === 'undo' ? [] : ownDecided.map(staysHere);
  const items = await withResting(command, [
    ...(decided === 'undo' ? ownDecided : staying),
    ...going.map(goesAway),
    ...takeBackItems(batchId),
  ]);
  await putItems(command, items);
  const undone = items.filter(({ thing }) => thing === 'line');
  const stays = staying.length + apart.length - going.length;
  const withDecided = undone.length > 0 ? say`, with ${linesSaid(undone.length)} decided` : '';
  const others = countSaid(stays, 'line decided stays', 'lines decided stay');
  const withOthers = stays > 0 ? say`, ${others}` : '';
  const words = say`Undid the import of ${batch.fileName}${withDecided}${withOthers}`;
  await recordStep(command, { kind: 'takeBackBatch', words, items });
  return { step, words: plainWords(words) };
}

/** A decided line is here by itself from now on, without the batch. */
const staysHere = ({ thingId }: StepItem): StepItem => ({
  thing: 'lineHere',
  thingId,
  before: { isHere: false },
  after: { isHere: true },
});

/** A batch that is in the books. @throws {ZubrellError} NOT_FOUND, BATCH_NOT_KEPT */
export async function keptBatch(
  tx: Tx,
  booksId: BooksId,
  batchId: BatchId,
): ReturnType<typeof batchOf> {
  const batch = await batchOf(tx, booksId, batchId);
  const states = { reading: 'still being imported', refused: 'refused', takenBack: 'taken back' };
  if (batch.status !== 'kept') fail('BATCH_NOT_KEPT', { state: states[batch.status] });
  return batch;
}

/** What takes a batch back. */
export function takeBackItems(batchId: BatchId): StepItem[] {
  return [{ thing: 'batch', thingId: batchId, before: { isKept: true }, after: null }];
}

const DecidedOnlyHereRow = z.object({ lineId: idRow<LineId>(), decisionId: idRow<DecisionId>() });

/** What opens the decided lines again that only this batch has seen. */
export async function decidedOnlyHere(
  tx: Tx,
  booksId: BooksId,
  batchId: BatchId,
): Promise<StepItem[]> {
  const rows = await rowsOf(
    tx,
    DecidedOnlyHereRow,
    sql`select dl.line_id as "lineId", dl.decision_id as "decisionId"
        from (${linesOnlyIn(booksId, [batchId])}) own
        join decision_lines dl
          on dl.books_id = ${booksId} and dl.line_id = own.id and dl.is_live`,
  );
  return rows.map(({ lineId, decisionId }) => ({
    thing: 'line',
    thingId: lineId,
    before: { decisionId },
    after: { decisionId: null },
  }));
}
