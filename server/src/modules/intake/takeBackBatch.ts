import type { StepDone } from '@zubrell/contract/common';
import type { TakeBackBatch } from '@zubrell/contract/intake';
import { fail } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { countLines } from '../lines/postLines.ts';
import { applyItems } from '../steps/applyItems.ts';
import { recordStep, type StepItem, takeStepNumber } from '../steps/recordStep.ts';
import { batchOf } from './queries.ts';

/**
 * Takes a kept batch back whole, as one step: open lines that no other batch has seen go, decided ones
 * stay, or are undone and go too.
 *
 * @throws {ZubrellError} NOT_FOUND, BATCH_NOT_KEPT, PERIOD_CLOSED
 */
export async function takeBackBatch(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  batchId: string,
  { decided }: TakeBackBatch,
): Promise<StepDone> {
  const batch = await keptBatch(tx, booksId, batchId);
  const step = await takeStepNumber(tx, booksId);
  const ownDecided = await decidedOnlyHere(tx, booksId, batchId);
  const undone = decided === 'undo' ? ownDecided : [];
  const items: StepItem[] = [...undone, ...takeBackItems(batchId)];
  await applyItems(tx, services, booksId, actor, step, items, () => '');
  const stays = ownDecided.length - undone.length;
  const words = [
    `Took back ${batch.fileName} from the books`,
    undone.length > 0 ? `with ${countLines(undone.length)} decided` : '',
    stays > 0 ? `${countLines(stays)} decided ${stays === 1 ? 'stays' : 'stay'}` : '',
  ];
  const record = { kind: 'takeBackBatch', words: words.filter(Boolean).join(', '), items };
  await recordStep(tx, services, booksId, actor, step, record);
  return { step, words: record.words };
}

/** A batch that is in the books. @throws {ZubrellError} NOT_FOUND, BATCH_NOT_KEPT */
export async function keptBatch(
  tx: Tx,
  booksId: string,
  batchId: string,
): ReturnType<typeof batchOf> {
  const batch = await batchOf(tx, booksId, batchId);
  const states = { reading: 'still coming in', refused: 'refused', takenBack: 'taken back' };
  if (batch.status !== 'kept') fail('BATCH_NOT_KEPT', { state: states[batch.status] });
  return batch;
}

/** What takes a batch back. */
export function takeBackItems(batchId: string): StepItem[] {
  return [{ thing: 'batch', thingId: batchId, before: { isKept: true }, after: null }];
}

/** What opens the decided lines again that only this batch has seen. */
export async function decidedOnlyHere(
  tx: Tx,
  booksId: string,
  batchId: string,
): Promise<StepItem[]> {
  const rows = await rowsOf<{ lineId: string; decisionId: string }>(
    tx,
    sql`select dl.line_id as "lineId", dl.decision_id as "decisionId"
        from sightings g
        join decision_lines dl
          on dl.books_id = g.books_id and dl.line_id = g.line_id and dl.is_live
        where g.books_id = ${booksId} and g.batch_id = ${batchId}
          and not exists (
            select from sightings o
            join batches b on b.books_id = o.books_id and b.id = o.batch_id
            where o.books_id = g.books_id and o.line_id = g.line_id and o.batch_id <> g.batch_id
              and b.status = 'kept')
        order by g.place`,
  );
  return rows.map(({ lineId, decisionId }) => ({
    thing: 'line',
    thingId: lineId,
    before: { decisionId },
    after: { decisionId: null },
  }));
}
