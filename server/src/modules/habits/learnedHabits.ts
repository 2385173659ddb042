import { promisify } from 'node:util';
import { deserialize, serialize } from 'node:v8';
import { deflateRaw, inflateRaw } from 'node:zlib';
import type { BooksId } from '@zubrell/core/ids';
import { type Memory, makeMemory } from '@zubrell/core/propose/habit/memory';
import type { MemoryState } from '@zubrell/core/propose/habit/memoryState';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';

/**
 * The way in which lines are taken apart and kept. Raised when that changes, so that what was learned otherwise is
 * learned anew.
 */
export const LEARNED_VERSION = 2;

const deflate = promisify<Buffer, { level: number }, Buffer>(deflateRaw);
const inflate = promisify<Buffer, Buffer>(inflateRaw);
/** Fast rather than small. */
const FAST = { level: 1 };

/** What was learned by a step. */
export interface Learned {
  readonly memory: Memory;
  /** The newest step that is in it; 0 where nothing is. */
  readonly step: number;
}

const LearnedRow = z.object({ step: z.number(), state: z.instanceof(Buffer) });

/** What was saved last of what habits learned; nothing learned yet where nothing was. */
export async function savedHabits(tx: Tx, booksId: BooksId): Promise<Learned> {
  const [row] = await rowsOf(
    tx,
    LearnedRow,
    sql`select step, state from learned_habits
        where books_id = ${booksId} and version = ${LEARNED_VERSION}`,
  );
  // Only this program writes it, and by the version only in this way.
  const memory = row && (await readMemory(row.state));
  return memory ? { step: row.step, memory } : { step: 0, memory: makeMemory() };
}

/** Null where it can't be read: then it is learned anew. */
async function readMemory(saved: Buffer): Promise<Memory | null> {
  try {
    return makeMemory(deserialize(await inflate(saved)) as MemoryState);
  } catch {
    return null;
  }
}

/** Saves what was learned, unless what is there is newer. */
export async function saveHabits(tx: Tx, booksId: BooksId, learned: Learned): Promise<void> {
  await tx.execute(
    sql`${await putState(booksId, learned)}
        where learned_habits.step <= excluded.step or learned_habits.version <> excluded.version`,
  );
}

/** Saves what was learned anew in place of what is there, and has all servers read it. */
export async function replaceHabits(tx: Tx, booksId: BooksId, learned: Learned): Promise<void> {
  await tx.execute(sql`${await putState(booksId, learned)}, rebuilt = learned_habits.rebuilt + 1`);
}

async function putState(booksId: BooksId, { memory, step }: Learned): Promise<SQL> {
  const state = await deflate(serialize(memory.save()), FAST);
  return sql`
    insert into learned_habits (books_id, step, version, state)
    values (${booksId}, ${step}, ${LEARNED_VERSION}, ${state})
    on conflict (books_id) do update
    set step = excluded.step, version = excluded.version, state = excluded.state`;
}

const RebuiltRow = z.object({ rebuilt: z.int() });

/** How often all was learned anew because somebody asked for it. */
export async function timesRebuilt(tx: Tx, booksId: BooksId): Promise<number> {
  const [row] = await rowsOf(
    tx,
    RebuiltRow,
    sql`select rebuilt from learned_habits where books_id = ${booksId}`,
  );
  return row?.rebuilt ?? 0;
}
