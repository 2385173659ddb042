import { Said } from '@zubrell/contract/said';
import type { BooksId, UserId } from '@zubrell/core/ids';
import { stepKinds } from '@zubrell/core/steps/stepKinds';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';

/** A step that did something itself, not an undo or a redo of another. */
export const BaseStep = z.object({
  no: z.number(),
  kind: z.enum(stepKinds),
  words: z.string(),
  said: Said.nullable(),
  isUndone: z.boolean(),
  /** The number of the step since which it is as it is now: done, undone or redone. */
  since: z.number(),
});
export type BaseStep = z.infer<typeof BaseStep>;

/** The number of the newest undo or redo of base step `s`. */
const newestTurn = sql`(
  select max(r.no) from steps r
  where r.books_id = s.books_id and r.turns = s.no)`;

/** Whether base step `s` is taken back: its newest undo or redo decides. */
export const isUndoneStep: SQL = sql`coalesce((
  select r.undoes is not null from steps r
  where r.books_id = s.books_id and r.turns = s.no
  order by r.no desc limit 1), false)`;

/** Whether step `s` did something itself. */
export const isBaseStep: SQL = sql`(s.turns is null)`;

/** What step `s` says with its values apart; null where it is older than that. */
export const saidOfStep: SQL = sql`(
  select json_build_object('key', w.key, 'values', w."values") from step_words w
  where w.books_id = s.books_id and w.step_no = s.no)`;

/** The columns of a {@link BaseStep}, of step `s`. */
export const baseStepColumns = sql`
  s.no, s.kind, s.words, ${saidOfStep} as said, ${isUndoneStep} as "isUndone", coalesce(${newestTurn}, s.no) as since`;

/** The base step that a step is or refers to. */
export async function findBaseStep(tx: Tx, booksId: BooksId, no: number): Promise<BaseStep | null> {
  const [row] = await rowsOf(
    tx,
    BaseStep,
    sql`select ${baseStepColumns} from steps given
        join steps s on s.books_id = given.books_id
          and s.no = coalesce(given.undoes, given.redoes, given.no)
        where given.books_id = ${booksId} and given.no = ${no}`,
  );
  return row ?? null;
}

/** The step that the user did or brought back last, and that is in force. */
export async function latestInForce(
  tx: Tx,
  booksId: BooksId,
  userId: UserId,
): Promise<BaseStep | null> {
  const [row] = await rowsOf(
    tx,
    BaseStep,
    sql`select ${baseStepColumns} from steps own
        join steps s on s.books_id = own.books_id and s.no = coalesce(own.redoes, own.no)
        where own.books_id = ${booksId} and own.user_id = ${userId} and own.undoes is null
          and not ${isUndoneStep}
        order by own.no desc limit 1`,
  );
  return row ?? null;
}

/** The step that the user took back last and did nothing new after. */
export async function latestUndone(
  tx: Tx,
  booksId: BooksId,
  userId: UserId,
): Promise<BaseStep | null> {
  const [row] = await rowsOf(
    tx,
    BaseStep,
    sql`select ${baseStepColumns} from steps u
        join steps s on s.books_id = u.books_id and s.no = u.undoes
        where u.books_id = ${booksId} and u.user_id = ${userId} and ${isUndoneStep}
          and u.no = (select max(r.no) from steps r
            where r.books_id = u.books_id and r.turns = u.undoes)
          and not exists (select from steps newer
            where newer.books_id = u.books_id and newer.user_id = u.user_id and newer.no > u.no
              and newer.turns is null)
        order by u.no desc limit 1`,
  );
  return row ?? null;
}

/** So many steps are named; of more the rest is counted. */
const MOST_NAMED = 8;

/**
 * Names steps by number and words.
 *
 * @example '12 “Posted 1 line to 6010 Freight out”, 9 “Added payee Tidemark Freight” and 3 more'
 */
export function namesOfSteps(steps: readonly BaseStep[]): string {
  const named = steps.slice(0, MOST_NAMED).map((step) => `${step.no} “${step.words}”`);
  const rest = steps.length - named.length;
  return `${named.join(', ')}${rest > 0 ? ` and ${rest} more` : ''}`;
}
