import type { RedoStep, UndoDone, UndoStep } from '@zubrell/contract/desk';
import { fail } from '@zubrell/core/errors';
import { say } from '@zubrell/core/words/say';
import { together } from '../../db/database.ts';
import { type BooksCommand, nextCommand } from './booksCommand.ts';
import {
  dependentSteps,
  itemsOfStep,
  needsOfStep,
  stepsBehind,
  stepsMissing,
  stepsTouching,
} from './dependencies.ts';
import { refuseOthersSteps } from './ownSteps.ts';
import { inTheWayOf, missingOf, putItems, standingElsewhere } from './putItems.ts';
import { recordStep, type StepItem } from './recordStep.ts';
import {
  type BaseStep,
  findBaseStep,
  latestInForce,
  latestUndone,
  namesOfSteps,
} from './stepState.ts';

/**
 * Takes a step back; without a number, the actor's own latest. Steps that rest on it stop that and are named, unless
 * they are to go too: then just those go, the newest first.
 *
 * @throws {ZubrellError} STEP_NOTHING, STEP_UNKNOWN, STEP_UNDONE, STEP_HELD, PERIOD_CLOSED and those of `turnAll`
 */
export async function undoStep(
  command: BooksCommand,
  { step, withLater }: UndoStep,
): Promise<UndoDone> {
  const { tx, booksId, actor } = command;
  const base =
    step === null
      ? ((await latestInForce(tx, booksId, actor.userId)) ?? fail('STEP_NOTHING'))
      : ((await findBaseStep(tx, booksId, step)) ?? fail('STEP_UNKNOWN'));
  if (base.isUndone) fail('STEP_UNDONE');
  if (base.kind === 'readArchive') fail('STEP_ARCHIVE');
  return turnAll(command, base, takeBack, withLater);
}

/**
 * Brings a step back; without a number, the one that the actor took back last. Earlier steps that it rests on and
 * that are undone are named, or come back with it.
 *
 * @throws {ZubrellError} STEP_NO_REDO, STEP_UNKNOWN, STEP_HELD, PERIOD_CLOSED and those of `turnAll`
 */
export async function redoStep(
  command: BooksCommand,
  { step, withEarlier }: RedoStep,
): Promise<UndoDone> {
  const { tx, booksId, actor } = command;
  const base =
    step === null
      ? ((await latestUndone(tx, booksId, actor.userId)) ?? fail('STEP_NO_REDO'))
      : ((await findBaseStep(tx, booksId, step)) ?? fail('STEP_UNKNOWN'));
  if (!base.isUndone) fail('STEP_NO_REDO');
  return turnAll(command, base, bringBack, withEarlier);
}

/** Steps being taken or brought back. */
interface Turning {
  /** The command of the next step. */
  command: BooksCommand;
  /** What was turned so far, in that order. */
  readonly turned: BaseStep[];
  readonly underWay: Set<number>;
}

type TurnStep = (turning: Turning, base: BaseStep) => Promise<void>;

/** Steps were turned that were not asked for: all of it is to be rolled back. */
class TurnedOthers extends Error {
  readonly others: readonly BaseStep[];

  constructor(others: readonly BaseStep[]) {
    super('others would be turned too');
    this.others = others;
  }
}

/**
 * Turns a step with all that has to be turned before it. Where that is not wanted it is done all the same and rolled
 * back: so just those steps are named that would be turned.
 *
 * @throws {ZubrellError} STEP_TOUCHED, STEP_RESTS, STEP_MIXED where others are in the way that are not to be turned
 */
async function turnAll(
  command: BooksCommand,
  base: BaseStep,
  turn: TurnStep,
  withOthers: boolean,
): Promise<UndoDone> {
  try {
    return await command.tx.transaction(async (tx) => {
      const turning: Turning = { command: { ...command, tx }, turned: [], underWay: new Set() };
      await turn(turning, base);
      const others = turning.turned.filter(({ no }) => no !== base.no);
      if (others.length > 0 && !withOthers) throw new TurnedOthers(others);
      await refuseOthersSteps(
        turning.command,
        turning.turned.map(({ no }) => no),
      );
      return {
        step: turning.command.step - 1,
        words: turnedWords(base, byDirection(others)),
        turned: turning.turned.map(({ no, isUndone }) => ({ no, isUndone: !isUndone })),
      };
    });
  } catch (error) {
    if (error instanceof TurnedOthers) {
      const { undone, redone } = byDirection(error.others);
      const params = { count: error.others.length, step: base.no };
      if (redone.length === 0) fail('STEP_TOUCHED', { ...params, steps: namesOfSteps(undone) });
      if (undone.length === 0) fail('STEP_RESTS', { ...params, steps: namesOfSteps(redone) });
      fail('STEP_MIXED', {
        ...params,
        steps: namesOfSteps(undone),
        undone: namesOfSteps(redone),
      });
    }
    throw error;
  }
}

/** Which of some steps that were turned were undone, and which redone. */
function byDirection(turned: readonly BaseStep[]) {
  return {
    undone: turned.filter(({ isUndone }) => !isUndone),
    redone: turned.filter(({ isUndone }) => isUndone),
  };
}

/** @example 'Undid: Created payee Tidemark Freight, and 1 step that rested on it' */
function turnedWords(base: BaseStep, { undone, redone }: ReturnType<typeof byDirection>): string {
  return [
    `${base.isUndone ? 'Redid' : 'Undid'}: ${base.words}`,
    ...(undone.length > 0 ? [`and ${countSteps(undone.length)} that rested on it`] : []),
    ...(redone.length > 0 ? [`with ${countSteps(redone.length)} that it rests on`] : []),
  ].join(', ');
}

/**
 * Takes a step back with all that rests on it. What that is, is found before anything is turned; then what nothing
 * rests on any more goes, the newest first: it may need what an older one made, though it rests on a third.
 */
async function takeBack(turning: Turning, base: BaseStep): Promise<void> {
  const wanted = new Map<number, Wanted>();
  const look = async (step: BaseStep): Promise<Wanted> => {
    const found = { step, ...(await restingOn(turning, step)), at: turning.turned.length };
    wanted.set(step.no, found);
    return found;
  };
  const want = async (step: BaseStep): Promise<void> => {
    if (wanted.has(step.no)) return;
    begin(turning, step);
    const { resting } = await look(step);
    for (const each of resting) await want(each);
  };
  await want(base);
  while (wanted.size > 0) {
    const all = [...wanted.values()];
    const free = all.filter(({ resting }) => resting.every(({ no }) => !wanted.has(no)));
    const [step = base] = newestFirst((free.length > 0 ? free : all).map((each) => each.step));
    const before = wanted.get(step.no);
    // What was found before holds until something is turned.
    const { resting, undone, moves } =
      before?.at === turning.turned.length ? before : await look(step);
    for (const each of undone) await bringBack(turning, each);
    const more = resting.filter(({ no }) => !wanted.has(no));
    for (const each of more) await want(each);
    if (undone.length > 0 || more.length > 0) continue;
    await turn(turning, step, moves, 'undo');
    wanted.delete(step.no);
  }
}

/** What a step that is to be taken back waits for, and how many were turned when that was found. */
interface Wanted extends Resting {
  readonly step: BaseStep;
  readonly at: number;
}

/** What has to be taken back, and what brought back, before a step can be taken back; and what that puts. */
interface Resting {
  readonly resting: readonly BaseStep[];
  readonly undone: readonly BaseStep[];
  readonly moves: readonly StepItem[];
}

async function restingOn({ command, turned }: Turning, base: BaseStep): Promise<Resting> {
  const items = await itemsOfStep(command, base.no);
  const moves = items
    .map((item) => ({ ...item, before: item.after, after: item.before }))
    .reverse();
  const [{ taken, absent }, dependent] = await together(
    inTheWayOf(command, moves),
    dependentSteps(command, base, items),
  );
  const { undone, later } = await stepsMissing(command, absent);
  const resting = newestFirst([
    ...dependent,
    ...(await stepsBehind(command, taken)),
    ...later,
  ]).filter(({ no }) => no !== base.no && !turned.some((step) => step.no === no));
  return { resting, undone, moves };
}

async function bringBack(turning: Turning, base: BaseStep): Promise<void> {
  begin(turning, base);
  const items = await itemsOfStep(turning.command, base.no);
  const needs = await needsOfStep(turning.command, base.no);
  for (;;) {
    const { command } = turning;
    const { taken, absent } = await inTheWayOf(command, items);
    const gone = [...absent, ...(await missingOf(command, needs))];
    const { undone, later } = await stepsMissing(command, gone);
    const touching = await stepsTouching(command, base, await standingElsewhere(command, items));
    const inTheWay = newestFirst([
      ...(await stepsBehind(command, taken)),
      ...later,
      ...touching.filter(({ isUndone }) => !isUndone),
    ]).filter(({ no }) => no !== base.no);
    if (inTheWay.length > 0) fail('STEP_TOUCHED', { steps: namesOfSteps(inTheWay) });
    const first = [...undone, ...touching].filter(({ no }) => no !== base.no);
    if (first.length === 0) break;
    for (const step of oldestFirst(first)) {
      if (!turning.turned.some(({ no }) => no === step.no)) await bringBack(turning, step);
    }
  }
  await turn(turning, base, items, 'redo');
}

function begin({ underWay }: Turning, base: BaseStep): void {
  if (underWay.has(base.no)) fail('STEP_HELD', { steps: namesOfSteps([base]) });
  underWay.add(base.no);
}

/**
 * Puts the things of a step, and records that as a step of its own.
 *
 * @throws {ZubrellError} STEP_HELD where a thing stands otherwise than any step left it
 */
async function turn(
  turning: Turning,
  base: BaseStep,
  moves: readonly StepItem[],
  direction: 'undo' | 'redo',
): Promise<void> {
  const { command } = turning;
  if ((await standingElsewhere(command, moves)).length > 0) {
    fail('STEP_HELD', { steps: namesOfSteps([base]) });
  }
  await putItems(command, moves);
  await recordStep(command, {
    kind: direction,
    words: say`${direction === 'undo' ? say`Undid` : say`Redid`}: ${base.said ?? base.words}`,
    items: moves,
    ...(direction === 'undo' ? { undoes: base.no } : { redoes: base.no }),
  });
  turning.turned.push(base);
  turning.command = nextCommand(command);
}

const newestFirst = (steps: readonly BaseStep[]) =>
  distinct(steps).sort((a, b) => b.since - a.since);
const oldestFirst = (steps: readonly BaseStep[]) => distinct(steps).sort((a, b) => a.no - b.no);

function distinct(steps: readonly BaseStep[]): BaseStep[] {
  return [...new Map(steps.map((step) => [step.no, step])).values()];
}

const countSteps = (count: number) => (count === 1 ? '1 step' : `${count} steps`);
