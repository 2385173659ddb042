import type { RedoStep, UndoDone, UndoStep } from '@zubrell/contract/desk';
import { fail } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { applyItems } from './applyItems.ts';
import { recordStep, type StepItem, takeStepNumber } from './recordStep.ts';
import {
  type BaseStep,
  findBaseStep,
  laterSteps,
  latestInForce,
  latestUndone,
} from './stepState.ts';

/**
 * Takes a step back; without a number, the actor's own latest. Later steps that touched the same things stop it, unless they are to go together.
 *
 * @throws {ZubrellError} STEP_NOTHING, STEP_UNKNOWN, STEP_UNDONE, STEP_TOUCHED, STEP_IN_USE
 */
export async function undoStep(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  { step, withLater }: UndoStep,
): Promise<UndoDone> {
  if (step === null) {
    const own = (await latestInForce(tx, booksId, actor.userId)) ?? fail('STEP_NOTHING');
    return takeBack(tx, services, booksId, actor, own, withLater);
  }
  const base = (await findBaseStep(tx, booksId, step)) ?? fail('STEP_UNKNOWN');
  if (base.isUndone) fail('STEP_UNDONE');
  return takeBack(tx, services, booksId, actor, base, withLater);
}

/**
 * Brings a step back; without a number, the one that the actor took back last.
 *
 * @throws {ZubrellError} STEP_NO_REDO, STEP_UNKNOWN, STEP_TOUCHED
 */
export async function redoStep(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  { step }: RedoStep,
): Promise<UndoDone> {
  const base =
    step === null
      ? ((await latestUndone(tx, booksId, actor.userId)) ?? fail('STEP_NO_REDO'))
      : ((await findBaseStep(tx, booksId, step)) ?? fail('STEP_UNKNOWN'));
  if (!base.isUndone) fail('STEP_NO_REDO');
  return bringBack(tx, services, booksId, actor, base);
}

async function takeBack(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  base: BaseStep,
  withLater: boolean,
): Promise<UndoDone> {
  const later = await laterSteps(tx, booksId, base.no);
  if (later.length > 0 && !withLater) fail('STEP_TOUCHED', { steps: namesOf(later) });
  const undone: number[] = [];
  for (const each of [...later, base]) {
    await turn(tx, services, booksId, actor, each, 'undo');
    undone.push(each.no);
  }
  const words =
    later.length === 0
      ? `Taken back: ${base.words}`
      : `Taken back: ${base.words}, and ${later.length} later`;
  return { step: await lastStepOf(tx, booksId), words, undone };
}

async function bringBack(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  base: BaseStep,
): Promise<UndoDone> {
  const later = await laterSteps(tx, booksId, base.no);
  if (later.length > 0) fail('STEP_TOUCHED', { steps: namesOf(later) });
  await turn(tx, services, booksId, actor, base, 'redo');
  return {
    step: await lastStepOf(tx, booksId),
    words: `Brought back: ${base.words}`,
    undone: [],
  };
}

/** Applies one step's items backwards or forwards and records that as a step of its own. */
async function turn(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  base: BaseStep,
  direction: 'undo' | 'redo',
): Promise<void> {
  const items = await rowsOf<StepItem>(
    tx,
    sql`select thing, thing_id as "thingId", before, after from step_items
        where books_id = ${booksId} and step_no = ${base.no} order by position`,
  );
  const no = await takeStepNumber(tx, booksId);
  const moves =
    direction === 'redo'
      ? items
      : items.map((item) => ({ ...item, before: item.after, after: item.before })).reverse();
  await applyItems(tx, services, booksId, actor, no, moves, () => namesOf([base]));
  await recordStep(tx, services, booksId, actor, no, {
    kind: direction,
    words: `${direction === 'undo' ? 'Took back' : 'Brought back'}: ${base.words}`,
    items: moves,
    ...(direction === 'undo' ? { undoes: base.no } : { redoes: base.no }),
  });
}

async function lastStepOf(tx: Tx, booksId: string): Promise<number> {
  const [row] = await rowsOf<{ no: number }>(
    tx,
    sql`select last_step as no from books where id = ${booksId}`,
  );
  return row?.no ?? fail('BOOKS_UNKNOWN');
}

function namesOf(steps: readonly BaseStep[]): string {
  return steps.map((step) => `${step.no} “${step.words}”`).join(', ');
}
