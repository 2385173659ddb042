import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type { MarkHabit } from '@zubrell/contract/habits';
import { fail } from '@zubrell/core/errors';
import { cleanName } from '@zubrell/core/text/cleanName';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { habitMarks } from '../../db/schema/rules.ts';
import type { Actor, Services } from '../../services.ts';
import { payeeState } from '../books/changeThings.ts';
import { renewSoon } from '../lines/proposals.ts';
import { recordStep, takeStepNumber } from '../steps/recordStep.ts';
import { isMarked } from './isMarked.ts';

/**
 * Blocks a habit, so that nothing is learned from such lines, or forgets what was learned so far.
 *
 * @throws {ZubrellError} PAYEE_UNKNOWN, HABIT_UNKNOWN
 */
export async function markHabit(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  { kind, payeeId, stems }: MarkHabit,
): Promise<StepDone> {
  const [first] = stems;
  if (payeeId === null && first === undefined) fail('HABIT_UNKNOWN');
  const name =
    payeeId === null ? cleanName(first ?? '') : (await payeeState(tx, booksId, payeeId)).name;
  const step = await takeStepNumber(tx, booksId);
  const id = randomUUID();
  const ofStems = payeeId === null ? [...stems] : [];
  await tx.insert(habitMarks).values({ booksId, id, kind, payeeId, stems: ofStems, step });
  await relearn(tx, booksId, id, step);
  const words =
    kind === 'blocked' ? `Stopped learning from ${name}` : `Forgot the habit of ${name}`;
  await recordStep(tx, services, booksId, actor, step, {
    kind: 'markHabit',
    words,
    items: [markItem(id, true)],
  });
  return { step, words };
}

/** Learns again from what was blocked. @throws {ZubrellError} HABIT_UNKNOWN */
export async function unmarkHabit(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  markId: string,
): Promise<StepDone> {
  const step = await takeStepNumber(tx, booksId);
  if (!(await setMarkLive(tx, booksId, markId, false, step))) fail('HABIT_UNKNOWN');
  const words = 'Learns again what was blocked';
  await recordStep(tx, services, booksId, actor, step, {
    kind: 'markHabit',
    words,
    items: [markItem(markId, false)],
  });
  return { step, words };
}

const markItem = (thingId: string, isLive: boolean) => ({
  thing: 'habitMark' as const,
  thingId,
  before: { isLive: !isLive },
  after: { isLive },
});

/** Lets a mark hold or not. @returns whether it stood otherwise */
export async function setMarkLive(
  tx: Tx,
  booksId: string,
  markId: string,
  isLive: boolean,
  step: number,
): Promise<boolean> {
  const changed = await rowsOf(
    tx,
    sql`update habit_marks set is_live = ${isLive}
        where books_id = ${booksId} and id = ${markId} and is_live <> ${isLive} returning id`,
  );
  if (changed.length === 0) return false;
  await relearn(tx, booksId, markId, step);
  return true;
}

/** Touches the decided lines that a mark is about, so that they are learned anew or no more. */
async function relearn(tx: Tx, booksId: string, markId: string, step: number): Promise<void> {
  const touched = await rowsOf<{ stem: string }>(
    tx,
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
