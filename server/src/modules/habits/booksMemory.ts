import type { BooksId } from '@zubrell/core/ids';
import type { Memory } from '@zubrell/core/propose/habit/memory';
import { type Outcome, ownShift } from '@zubrell/core/propose/habit/sureness';
import { sql } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { queueJob } from '../../db/queueJob.ts';
import { idRow } from '../../db/rows.ts';
import { committedStep } from '../steps/booksCommand.ts';
import { savedHabits, saveHabits, timesRebuilt } from './learnedHabits.ts';
import { type TaughtLine, taughtSince, teach, teachAll } from './taughtLines.ts';

/** The habits of some books, as far as committed steps taught them. */
interface Known {
  readonly memory: Memory;
  /** The newest step that is in it. */
  step: number;
  /** How many lines were learned that are not saved. */
  unsaved: number;
  /** How much the record by a step shifts odds. */
  shift: number;
  shiftStep: number;
  /** From which rebuilding on. */
  readonly rebuilt: number;
  /** Ends when whoever brings it up just now is done. */
  turn: Promise<unknown>;
}

/** So many decided lines, of all books together, are kept in mind. */
const MOST_LINES = 100_000;

/**
 * What was used last, so that it need not be read again. All of it is in the database, as it was saved or to be
 * learned from the steps since, so that no server has to have it.
 */
const known = new LRUCache<string, Known>({
  maxSize: MOST_LINES,
  // One set of books is kept in mind however large it is, and none is for nothing.
  sizeCalculation: ({ memory }) => Math.min(MOST_LINES, memory.size() + 100),
});

/** The habits of books as a transaction sees them. */
export interface BooksHabits {
  /** Runs what asks the habits; it must not wait for anything. */
  readonly ask: <T>(work: (memory: Memory) => T) => T;
  /** How much the books' own record shifts all odds. */
  readonly shift: number;
}

/**
 * The habits of books, learned from all live decisions: what was saved of them, brought up by the steps since.
 * What the transaction itself did is only put in while it asks, so that nothing is left behind where it is rolled back.
 */
export async function habitsOf(tx: Tx, booksId: BooksId): Promise<BooksHabits> {
  const { mine, own } = await upToDate(tx, booksId);
  if (mine.unsaved > unsavedAtMost(mine.memory)) await queueJob(tx, 'saveHabits', { booksId });
  return {
    shift: mine.shift,
    ask: (work) => {
      const before = own.map((line) => mine.memory.take(line.id));
      for (const line of own) teach(mine.memory, line);
      try {
        return work(mine.memory);
      } finally {
        for (const line of own) mine.memory.take(line.id);
        for (const putBack of before) putBack?.();
      }
    },
  };
}

/** What is known of books, with what the transaction itself changed. */
async function upToDate(
  tx: Tx,
  booksId: BooksId,
): Promise<{ readonly mine: Known; readonly own: readonly TaughtLine[] }> {
  // What the transaction itself did may be rolled back, also where it is several steps.
  const [committed, rebuilt] = await together(
    committedStep(tx, booksId),
    timesRebuilt(tx, booksId),
  );
  const found = known.get(booksId);
  const mine =
    found !== undefined && found.step <= committed && found.rebuilt === rebuilt
      ? found
      : { ...(await savedHabits(tx, booksId)), rebuilt, ...UNTAUGHT };
  // One after the other: what one has read must not be put over what another has read since.
  const bringing = mine.turn.then(() => bringUp(tx, booksId, mine, committed));
  mine.turn = bringing.catch(() => undefined);
  const own = await bringing;
  const shiftStep = shiftStepOf(committed);
  if (shiftStep !== mine.shiftStep) {
    mine.shift = ownShift(await recordOf(tx, booksId, shiftStep));
    mine.shiftStep = shiftStep;
  }
  keep(booksId, mine);
  return { mine, own };
}

const UNTAUGHT = { unsaved: 0, shift: 0, shiftStep: 0, turn: Promise.resolve() };

/** Teaches what was committed by a step. @returns what the transaction itself has changed */
async function bringUp(
  tx: Tx,
  booksId: BooksId,
  mine: Known,
  committed: number,
): Promise<readonly TaughtLine[]> {
  const own: TaughtLine[] = [];
  for await (const changed of taughtSince(tx, booksId, mine.step)) {
    const others = changed.filter((line) => line.changed <= committed);
    await teachAll(mine.memory, others);
    mine.unsaved += others.length;
    own.push(...changed.filter((line) => line.changed > committed));
  }
  mine.step = Math.max(mine.step, committed);
  return own;
}

/** Keeps books in mind, as large as they are by now. */
function keep(booksId: BooksId, mine: Known): void {
  known.delete(booksId);
  known.set(booksId, mine);
}

/** How much the books' own record shifts all odds, as in {@link habitsOf}, without reading what habits learned. */
export async function shiftOf(tx: Tx, booksId: BooksId): Promise<number> {
  return ownShift(await recordOf(tx, booksId, shiftStepOf(await committedStep(tx, booksId))));
}

/** The record is looked at again with every so many steps, on all servers alike. */
const SHIFT_HOLDS = 20;

function shiftStepOf(committed: number): number {
  return committed - (committed % SHIFT_HOLDS);
}

/** So many lines are learned again whenever the books are read into mind, before saving all is worth it. */
function unsavedAtMost(memory: Memory): number {
  return 200 + memory.size() / 50;
}

/** What is queued: habits to be saved. */
export const SaveHabitsJob = z.object({ booksId: idRow<BooksId>() });
export type SaveHabitsJob = z.infer<typeof SaveHabitsJob>;

/** Saves what habits learned by now. */
export async function saveLearned(tx: Tx, booksId: BooksId): Promise<void> {
  const { mine } = await upToDate(tx, booksId);
  const { step, memory, unsaved } = mine;
  await saveHabits(tx, booksId, { step, memory });
  mine.unsaved -= unsaved;
}

const OutcomeRow = z.object({ odds: z.number(), isRight: z.boolean() });

/** What habits proposed by a step for lines that somebody looked at, and whether the account was left. */
function recordOf(tx: Tx, booksId: BooksId, step: number): Promise<Outcome[]> {
  return rowsOf(
    tx,
    OutcomeRow,
    sql`select odds, is_account_kept as "isRight" from (
          select d.odds, d.is_account_kept, d.step from decisions d
          where d.books_id = ${booksId} and d.odds is not null and d.way in ('line', 'stack')
            and d.step <= ${step}
          order by d.step desc limit 800) newest
        order by step`,
  );
}
