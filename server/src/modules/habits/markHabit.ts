import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type { MarkHabit } from '@zubrell/contract/habits';
import { fail } from '@zubrell/core/errors';
import { cleanName } from '@zubrell/core/text/cleanName';
import { say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { habitMarks } from '../../db/schema/rules.ts';
import { payeeState } from '../books/changeThings.ts';
import { relearnLines } from '../lines/relearnLines.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { liveThing } from '../steps/liveThing.ts';
import { plainWords, recordStep } from '../steps/recordStep.ts';
import { isMarked } from './isMarked.ts';

/**
 * Blocks a habit, so that nothing is learned from such lines, or forgets what was learned so far.
 *
 * @throws {ZubrellError} PAYEE_UNKNOWN, HABIT_UNKNOWN
 */
export async function markHabit(
  command: BooksCommand,
  { kind, payeeId, stems }: MarkHabit,
): Promise<StepDone> {
  const { tx, booksId, step } = command;
  const [first] = stems;
  if (payeeId === null && first === undefined) fail('HABIT_UNKNOWN');
  const name =
    payeeId === null ? cleanName(first ?? '') : (await payeeState(tx, booksId, payeeId)).name;
  const id = randomUUID();
  const ofStems = payeeId === null ? [...stems] : [];
  await tx.insert(habitMarks).values({ booksId, id, kind, payeeId, stems: ofStems, step });
  await relearn(command, id);
  const words =
    kind === 'blocked' ? say`Stopped learning from ${name}` : say`Forgot the habit of ${name}`;
  await recordStep(command, {
    kind: 'markHabit',
    words,
    items: [markItem(id, true)],
    needs: payeeId === null ? [] : [{ thing: 'payee', thingId: payeeId }],
  });
  return { step, words: plainWords(words) };
}

/** Learns again from what was blocked. @throws {ZubrellError} HABIT_UNKNOWN */
export async function unmarkHabit(command: BooksCommand, markId: string): Promise<StepDone> {
  const { step } = command;
  const standing = await habitMarkThing.standing(command, [markId]);
  if (standing.get(markId)?.isLive !== true) fail('HABIT_UNKNOWN');
  const item = markItem(markId, false);
  await habitMarkThing.put(command, [item]);
  const words = say`Allowed learning again`;
  await recordStep(command, {
    kind: 'markHabit',
    words,
    items: [item],
  });
  return { step, words: plainWords(words) };
}

const markItem = (thingId: string, isLive: boolean) => ({
  thing: 'habitMark' as const,
  thingId,
  before: { isLive: !isLive },
  after: { isLive },
});

/** How a mark is taken back. */
export const habitMarkThing = liveThing('habitMark', 'habit_marks', async (command, ids) => {
  for (const id of ids) await relearn(command, id);
});

/** Has the decided lines that a mark is about learned anew, or no more. */
async function relearn(command: BooksCommand, markId: string): Promise<void> {
  const isAbout = sql`d.kind = 'posted' and exists (
    select from habit_marks m where m.books_id = l.books_id and m.id = ${markId}
      and ${isMarked(sql`coalesce(y.merged_into, y.id)`)})`;
  await command.follow.linesTaught(command, await relearnLines(command, isAbout));
}
