import { deserialize, serialize } from 'node:v8';
import { type Memory, makeMemory } from '@zubrell/core/propose/habit/memory';
import type { MemoryState } from '@zubrell/core/propose/habit/memoryState';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';

/**
 * The way in which lines are taken apart and kept. Raised when that changes, so that what was learned otherwise is
 * learned anew.
 */
export const LEARNED_VERSION = 1;

/** What was learned by a step. */
export interface Learned {
  readonly memory: Memory;
  /** The newest step that is in it; 0 where nothing is. */
  readonly step: number;
}

const LearnedRow = z.object({ step: z.number(), state: z.instanceof(Buffer) });

/** What was saved last of what habits learned; nothing learned yet where nothing was. */
export async function savedHabits(tx: Tx, booksId: string): Promise<Learned> {
  const [row] = await rowsOf(
    tx,
    LearnedRow,
    sql`select step, state from learned_habits
        where books_id = ${booksId} and version = ${LEARNED_VERSION}`,
  );
  // Only this program writes it, and by the version only in this way.
  return row
    ? { step: row.step, memory: makeMemory(deserialize(row.state) as MemoryState) }
    : { step: 0, memory: makeMemory() };
}

/** Saves what was learned, unless what is there is newer. */
export async function saveHabits(tx: Tx, booksId: string, learned: Learned): Promise<void> {
  await tx.execute(
    sql`${putState(booksId, learned)}
        where learned_habits.step <= excluded.step or learned_habits.version <> excluded.version`,
  );
}

/** Saves what was learned anew in place of what is there, and has all servers read it. */
export async function replaceHabits(tx: Tx, booksId: string, learned: Learned): Promise<void> {
  await tx.execute(sql`${putState(booksId, learned)}, rebuilt = learned_habits.rebuilt + 1`);
}

function putState(booksId: string, { memory, step }: Learned): SQL {
  return sql`
    insert into learned_habits (books_id, step, version, state)
    values (${booksId}, ${step}, ${LEARNED_VERSION}, ${serialize(memory.save())})
    on conflict (books_id) do update
    set step = excluded.step, version = excluded.version, state = excluded.state`;
}

const RebuiltRow = z.object({ rebuilt: z.int() });

/** How often all was learned anew because somebody asked for it. */
export async function timesRebuilt(tx: Tx, booksId: string): Promise<number> {
  const [row] = await rowsOf(
    tx,
    RebuiltRow,
    sql`select rebuilt from learned_habits where books_id = ${booksId}`,
  );
  return row?.rebuilt ?? 0;
}
