import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type { MarkHabit } from '@zubrell/contract/habits';
import { fail } from '@zubrell/core/errors';
import { cleanName } from '@zubrell/core/text/cleanName';
import { sql } from 'drizzle-orm';
import { rowsOf } from '../../db/database.ts';
import { StemRow } from '../../db/rows.ts';
import { habitMarks } from '../../db/schema/rules.ts';
import { payeeState } from '../books/changeThings.ts';
import { renewSoon } from '../lines/proposals.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { liveThing } from '../steps/liveThing.ts';
import { recordStep } from '../steps/recordStep.ts';
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
    kind === 'blocked' ? `Stopped learning from ${name}` : `Forgot the habit of ${name}`;
  await recordStep(command, {
    kind: 'markHabit',
    words,
    items: [markItem(id, true)],
    needs: payeeId === null ? [] : [{ thing: 'payee', thingId: payeeId }],
  });
  return { step, words };
}

/** Learns again from what was blocked. @throws {ZubrellError} HABIT_UNKNOWN */
export async function unmarkHabit(command: BooksCommand, markId: string): Promise<StepDone> {
  const { step } = command;
  const standing = await habitMarkThing.standing(command, [markId]);
  if (standing.get(markId)?.isLive !== true) fail('HABIT_UNKNOWN');
  const item = markItem(markId, false);
  await habitMarkThing.put(command, [item]);
  const words = 'Learns again what was blocked';
  await recordStep(command, {
    kind: 'markHabit',
    words,
    items: [item],
  });
  return { step, words };
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

/** Touches the decided lines that a mark is about, so that they are learned anew or no more. */
async function relearn({ tx, booksId, step }: BooksCommand, markId: string): Promise<void> {
  const touched = await rowsOf(
    tx,
    StemRow,
    sql`update lines l set last_step = ${step}
        from habit_marks m, decision_lines dl
        join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        left join payees y on y.books_id = d.books_id and y.id = (d.coding ->> 'payeeId')::uuid
        where l.books_id = ${booksId} and m.books_id = l.books_id and m.id = ${markId}
          and dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live and d.kind = 'posted'
          and ${isMarked(sql`coalesce(y.merged_into, y.id)`)}
        returning l.stem`,
  );
  await renewSoon(tx, booksId, [...new Set(touched.map(({ stem }) => stem))]);
}
