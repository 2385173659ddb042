import { Readable } from 'node:stream';
import { promisify } from 'node:util';
import { deserialize, serialize } from 'node:v8';
import { createInflateRaw, deflateRaw } from 'node:zlib';
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
/** Fast rather than small. */
const FAST = { level: 1 };

/** What was learned by a step. */
export interface Learned {
  readonly memory: Memory;
  /** The newest step that is in it; 0 where nothing is. */
  readonly step: number;
}

/** So much of it is one row of an answer, in bytes: in between it is a text twice as long. */
const PIECE = 4 * 1_024 * 1_024;

const PieceRow = z.object({ step: z.number(), piece: z.instanceof(Buffer) });

/**
 * What was saved last of what habits learned; nothing learned yet where nothing was.
 *
 * @param pieceSize so much of it is read as one row, in bytes
 */
export async function savedHabits(
  tx: Tx,
  booksId: BooksId,
  pieceSize: number = PIECE,
): Promise<Learned> {
  const rows = await rowsOf(
    tx,
    PieceRow,
    sql`select step, substring(state from place for ${pieceSize}::int) as piece
        from learned_habits cross join generate_series(1, octet_length(state), ${pieceSize}::int) as place
        where books_id = ${booksId} and version = ${LEARNED_VERSION}
        order by place`,
  );
  const [first] = rows;
  // Only this program writes it, and by the version only in this way.
  const memory = first && (await readMemory(rows.map(({ piece }) => piece)));
  return memory ? { step: first.step, memory } : { step: 0, memory: makeMemory() };
}

/** Null where it can't be read: then it is learned anew. */
async function readMemory(saved: readonly Buffer[]): Promise<Memory | null> {
  try {
    return makeMemory(deserialize(await inflated(saved)) as MemoryState);
  } catch {
    return null;
  }
}

/** Texts and numbers become so much shorter, or a little less. */
const SHORTER = 4;

/** What was made shorter, piece by piece into one place: of very large books two of them would be in mind for a moment. */
async function inflated(saved: readonly Buffer[]): Promise<Buffer> {
  let whole = Buffer.allocUnsafe(SHORTER * saved.reduce((sum, { length }) => sum + length, 0));
  let size = 0;
  for await (const chunk of Readable.from(saved).pipe(createInflateRaw({ chunkSize: PIECE }))) {
    if (size + chunk.length > whole.length) {
      const larger = Buffer.allocUnsafe(2 * (size + chunk.length));
      whole.copy(larger, 0, 0, size);
      whole = larger;
    }
    size += (chunk as Buffer).copy(whole, size);
  }
  return whole.subarray(0, size);
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
