import type { StepDone } from '@zubrell/contract/common';
import type { StepKind } from '@zubrell/core/steps/stepKinds';
import { neededThings, stepThings } from '@zubrell/core/steps/stepThings';
import { type Said, saidWords } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { execute, together } from '../../db/database.ts';
import { queueJob } from '../../db/queueJob.ts';
import { announce } from './announce.ts';
import type { BooksCommand } from './booksCommand.ts';

/** A thing's state as steps keep it; null where it is not there. */
export const ThingState = z.record(z.string(), z.unknown()).nullable();
export type ThingState = z.infer<typeof ThingState>;

/** A thing that a step touched, before and after. */
export const StepItem = z.object({
  thing: z.enum(stepThings),
  thingId: z.string(),
  before: ThingState,
  after: ThingState,
});
export type StepItem = z.infer<typeof StepItem>;

/** A thing that has to be there for a step to hold. */
export const Need = z.object({ thing: z.enum(neededThings), thingId: z.string() });
export type Need = z.infer<typeof Need>;

/** What a step says of itself. */
export interface StepRecord {
  readonly kind: StepKind;
  readonly words: Said;
  readonly items: readonly StepItem[];
  readonly needs?: readonly Need[];
  readonly undoes?: number;
  readonly redoes?: number;
}

/**
 * Writes the command's step with its items and needs, and tells all servers when the transaction commits. Who did it
 * the database takes from the session, and the time from its clock.
 *
 * @throws {ZubrellError} SIGN_IN_NEEDED where the session has ended meanwhile
 */
export async function recordStep(
  { tx, booksId, actor, step: no }: BooksCommand,
  { kind, words, items, needs = [], undoes, redoes }: StepRecord,
): Promise<void> {
  const ofStep = { books_id: booksId, step_no: no };
  const columns = { books_id: 'uuid', step_no: 'bigint', thing: 'text', thing_id: 'uuid' } as const;
  const distinct = new Map(needs.map((need) => [`${need.thing} ${need.thingId}`, need]));
  const touched = [...new Set(items.map(({ thing }) => thing))];
  await together(
    execute(
      tx,
      sql`update books set last_step = ${no} where id = ${booksId} and last_step = ${no - 1}`,
    ),
    execute(
      tx,
      sql`select record_step(${actor.session}, ${actor.userId}, ${booksId}, ${no}, ${kind},
            ${plainWords(words)}, ${undoes ?? null}, ${redoes ?? null})`,
    ),
    execute(
      tx,
      sql`insert into step_words (books_id, step_no, key, "values")
          values (${booksId}, ${no}, ${words.key}, ${JSON.stringify(words.values)}::jsonb)`,
    ),
    bulkInsert(
      tx,
      'step_items',
      { ...columns, position: 'integer', before: 'jsonb', after: 'jsonb' },
      items.map(({ thing, thingId, before, after }, position) => ({
        ...ofStep,
        position,
        thing,
        thing_id: thingId,
        before,
        after,
      })),
    ),
    bulkInsert(
      tx,
      'step_needs',
      columns,
      [...distinct.values()].map(({ thing, thingId }) => ({ ...ofStep, thing, thing_id: thingId })),
    ),
    queueJob(tx, 'summariseBooks', { booksId }),
    announce(tx, { booksId, step: no, touched, by: actor.key ?? null }),
  );
}

/** What a step says as its record has it, whoever reads it. */
export function plainWords(words: Said): string {
  return saidWords(words);
}

/** The same for a command that does nothing more: tells what was done. */
export async function recordDone(command: BooksCommand, record: StepRecord): Promise<StepDone> {
  await recordStep(command, record);
  return { step: command.step, words: plainWords(record.words) };
}
