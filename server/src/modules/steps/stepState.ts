import { type SQL, sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';

/** A step that did something itself, not an undo or a redo of another. */
export interface BaseStep {
  readonly no: number;
  readonly kind: string;
  readonly words: string;
  readonly isUndone: boolean;
}

/** Whether base step `s` is taken back: its newest undo or redo decides. */
export const isUndoneStep: SQL = sql`coalesce((
  select r.undoes is not null from steps r
  where r.books_id = s.books_id and (r.undoes = s.no or r.redoes = s.no)
  order by r.no desc limit 1), false)`;

const columns = sql`s.no, s.kind, s.words, ${isUndoneStep} as "isUndone"`;

/** The base step that a step is or refers to. */
export async function findBaseStep(tx: Tx, booksId: string, no: number): Promise<BaseStep | null> {
  const [row] = await rowsOf<BaseStep>(
    tx,
    sql`select ${columns} from steps given
        join steps s on s.books_id = given.books_id
          and s.no = coalesce(given.undoes, given.redoes, given.no)
        where given.books_id = ${booksId} and given.no = ${no}`,
  );
  return row ?? null;
}

/** The user's newest step that is in force. */
export async function latestInForce(
  tx: Tx,
  booksId: string,
  userId: string,
): Promise<BaseStep | null> {
  const [row] = await rowsOf<BaseStep>(
    tx,
    sql`select ${columns} from steps s
        where s.books_id = ${booksId} and s.user_id = ${userId}
          and s.undoes is null and s.redoes is null and not ${isUndoneStep}
        order by s.no desc limit 1`,
  );
  return row ?? null;
}

/** The step that the user took back last and did nothing new after. */
export async function latestUndone(
  tx: Tx,
  booksId: string,
  userId: string,
): Promise<BaseStep | null> {
  const [row] = await rowsOf<BaseStep>(
    tx,
    sql`select ${columns} from steps u
        join steps s on s.books_id = u.books_id and s.no = u.undoes
        where u.books_id = ${booksId} and u.user_id = ${userId} and ${isUndoneStep}
          and u.no = (select max(r.no) from steps r
            where r.books_id = u.books_id and r.undoes = u.undoes)
          and not exists (select from steps newer
            where newer.books_id = u.books_id and newer.user_id = u.user_id and newer.no > u.no
              and newer.undoes is null and newer.redoes is null)
        order by u.no desc limit 1`,
  );
  return row ?? null;
}

/**
 * Later steps in force that touched the same things, the newest first. Of a batch these are the
 * lines that no other kept batch has seen.
 */
export async function laterSteps(tx: Tx, booksId: string, no: number): Promise<BaseStep[]> {
  return rowsOf<BaseStep>(
    tx,
    sql`with touched as (
          select i.thing_id from step_items i
          where i.books_id = ${booksId} and i.step_no = ${no}
          union
          select g.line_id from step_items i
          join sightings g on g.books_id = i.books_id and g.batch_id = i.thing_id
          where i.books_id = ${booksId} and i.step_no = ${no} and i.thing = 'batch'
            and not exists (
              select from sightings other
              join batches b on b.books_id = other.books_id and b.id = other.batch_id
              where other.books_id = g.books_id and other.line_id = g.line_id
                and other.batch_id <> g.batch_id and b.status = 'kept'))
        select ${columns} from steps s
        where s.books_id = ${booksId} and s.no > ${no} and s.undoes is null and s.redoes is null
          and not ${isUndoneStep}
          and exists (select from step_items i where i.books_id = s.books_id and i.step_no = s.no
            and i.thing_id in (select thing_id from touched))
        order by s.no desc`,
  );
}
