import { fail } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { steps } from '../../db/schema/steps.ts';
import type { Actor, Services } from '../../services.ts';

/** A thing that a step touched, before and after; `null` where it was not there. */
export interface StepItem {
  readonly thing:
    | 'line'
    | 'twice'
    | 'question'
    | 'lineHere'
    | 'alias'
    | 'dismissal'
    | 'rule'
    | 'habitMark'
    /** A line that a question of the same step is about. */
    | 'asked'
    | 'entry'
    | 'document'
    /** Documents that were settled against each other. */
    | 'offset'
    /** A document or entry that lines of the same step were paired with. */
    | 'tied'
    | 'batch'
    | 'account'
    | 'payee'
    | 'costObject'
    | 'bankAccount'
    | 'books';
  readonly thingId: string;
  readonly before: unknown;
  readonly after: unknown;
}

/** What a step says of itself. */
export interface StepRecord {
  readonly kind: string;
  readonly words: string;
  readonly items: readonly StepItem[];
  readonly undoes?: number;
  readonly redoes?: number;
}

/** The channel on which servers tell each other of new steps, as `booksId:step`. */
export const stepChannel = 'zubrell_steps';

/**
 * Makes the commands on one set of books wait for each other from here on: what is read after this
 * is what the command before left.
 */
export async function lockBooks(tx: Tx, booksId: string): Promise<void> {
  await tx.execute(sql`select from books where id = ${booksId} for no key update`);
}

/**
 * Takes the next step number of the books. Commands on one set of books wait for each other here,
 * so that steps commit in the order of their numbers.
 */
export async function takeStepNumber(tx: Tx, booksId: string): Promise<number> {
  const [row] = await rowsOf<{ no: number }>(
    tx,
    sql`update books set last_step = last_step + 1 where id = ${booksId} returning last_step as no`,
  );
  return row?.no ?? fail('BOOKS_UNKNOWN');
}

/** Writes a step with its items and tells all servers when the transaction commits. */
export async function recordStep(
  tx: Tx,
  { clock }: Pick<Services, 'clock'>,
  booksId: string,
  actor: Pick<Actor, 'userId'>,
  no: number,
  record: StepRecord,
): Promise<void> {
  await tx.insert(steps).values({
    booksId,
    no,
    userId: actor.userId,
    at: clock.now(),
    kind: record.kind,
    words: record.words,
    undoes: record.undoes ?? null,
    redoes: record.redoes ?? null,
  });
  await bulkInsert(
    tx,
    'step_items',
    {
      books_id: 'uuid',
      step_no: 'bigint',
      position: 'integer',
      thing: 'text',
      thing_id: 'uuid',
      before: 'jsonb',
      after: 'jsonb',
    },
    record.items.map((item, position) => ({
      books_id: booksId,
      step_no: no,
      position,
      thing: item.thing,
      thing_id: item.thingId,
      before: item.before,
      after: item.after,
    })),
  );
  await tx.execute(sql`select pg_notify(${stepChannel}, ${`${booksId}:${no}`})`);
}
