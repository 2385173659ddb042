import type { BooksId } from '@zubrell/core/ids';
import type { StepThing } from '@zubrell/core/steps/stepThings';
import type { SQL } from 'drizzle-orm';
import { z } from 'zod';
import type { BooksCommand } from './booksCommand.ts';
import { type Need, type StepItem, ThingState } from './recordStep.ts';

/** A thing to be put from one state into another; null where it is not there. */
export const Turn = z.object({ thingId: z.string(), before: ThingState, after: ThingState });
export type Turn = z.infer<typeof Turn>;

/** What keeps things from being put into other states. */
export interface InTheWay {
  /** Things that are there: one has taken the name, another rests on what would go. */
  readonly taken: readonly Need[];
  /** Things that are not there, and would have to be. */
  readonly absent?: readonly Need[];
}

/** How things of one kind are read and put, so that steps can be taken back and brought back. */
export interface ThingHandler {
  /** How these stand, by id; those that are not there are null or left out. */
  readonly standing: (
    command: BooksCommand,
    ids: readonly string[],
  ) => Promise<ReadonlyMap<string, ThingState>>;
  /** Puts things, that stand as `before` says, into other states. Nothing is in the way. */
  readonly put: (command: BooksCommand, turns: readonly Turn[]) => Promise<void>;
  /** Those of these that are not there, each as the thing that would have to come back for it. */
  readonly missing: (command: BooksCommand, ids: readonly string[]) => Promise<readonly Need[]>;
  /**
   * What keeps things from being put into other states.
   *
   * @param all everything that is put at once, of other kinds too
   */
  readonly inTheWay?: (
    command: BooksCommand,
    turns: readonly Turn[],
    all: readonly StepItem[],
  ) => Promise<InTheWay>;
  /** Selects as `id` the lines that come and go with these, because nothing else has them here. */
  readonly linesOf?: (booksId: BooksId, ids: readonly string[]) => SQL;
  /** The table whose rows of this kind name the step that made them in `step`, where its items don't. */
  readonly table?: 'entries' | 'documents' | 'decisions';
}

/** What else can be needed: decisions, where something rests on what they made. */
interface DecisionHandler extends Pick<ThingHandler, 'missing'> {
  readonly table: 'decisions';
  /** Selects as `id` the lines of a decision. */
  readonly linesOf: (booksId: BooksId, decisionId: SQL) => SQL;
}

/** The handlers of all kinds of things. */
export type Things = Readonly<Record<StepThing, ThingHandler>> & {
  readonly decision: DecisionHandler;
};

/** Whether a state says that the thing is there. */
export function isHere(state: ThingState): boolean {
  return (
    state !== null &&
    state.isVoid !== true &&
    state.isHere !== false &&
    state.isLive !== false &&
    state.state !== 'withdrawn' &&
    state.decisionId !== null
  );
}

/** The {@link ThingHandler.missing} of things that are there where they stand so. */
export function missingByStanding(
  thing: StepThing,
  standing: ThingHandler['standing'],
): ThingHandler['missing'] {
  return async (command, ids) => {
    const states = await standing(command, ids);
    return ids
      .filter((id) => !isHere(states.get(id) ?? null))
      .map((thingId) => ({ thing, thingId }));
  };
}
