import { createHash, randomUUID } from 'node:crypto';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Database, inBooks, rowsOf, type Tx } from '../../db/database.ts';
import { uploadPieces, uploads } from '../../db/schema/lines.ts';
import type { Acting } from '../steps/booksCommand.ts';

/** Pieces of this size keep each row small. */
const PIECE = 1024 * 1024;
/** Uploads that were never kept are dropped after this many hours. */
const KEPT_HOURS = 24;

/** The largest file taken at once, in bytes. */
export const LARGEST_FILE = 300 * 1024 * 1024;

/** So much may wait to be kept or dropped, in bytes. */
const MOST_WAITING = 2 * 1024 ** 3;

const BytesRow = z.object({ bytes: z.number() });

/** @throws {ZubrellError} FILES_TOO_MUCH where too much was uploaded to the books since yesterday */
export async function checkRoomForUpload(tx: Tx, booksId: BooksId, size: number): Promise<void> {
  const [held] = await rowsOf(
    tx,
    BytesRow,
    sql`select coalesce(sum(size), 0)::bigint as bytes from uploads where books_id = ${booksId}`,
  );
  if ((held?.bytes ?? 0) + size > MOST_WAITING) {
    fail('FILES_TOO_MUCH', { limit: MOST_WAITING / 1024 ** 2 });
  }
}

/** Stores a raw file piece by piece as it arrives, so that it is never whole in memory. */
export async function storeUpload(
  { tx, booksId, clock }: Omit<Acting, 'actor'>,
  fileName: string,
  body: AsyncIterable<Uint8Array>,
): Promise<string> {
  const id = randomUUID();
  const createdAt = clock.now();
  const oldest = new Date(createdAt.getTime() - KEPT_HOURS * 3_600_000);
  await tx.execute(
    sql`delete from uploads u where books_id = ${booksId} and created_at < ${oldest.toISOString()}
        and not exists (select from batches b where b.books_id = u.books_id
          and b.upload_id = u.id and b.status = 'reading')`,
  );
  const hash = createHash('sha256');
  let size = 0;
  let position = 0;
  await tx.insert(uploads).values({ booksId, id, fileName, size: 0, sha256: '', createdAt });
  for await (const bytes of piecesOf(body)) {
    hash.update(bytes);
    size += bytes.length;
    await tx.insert(uploadPieces).values({ booksId, uploadId: id, position, bytes });
    position += 1;
  }
  if (size === 0) fail('FILE_EMPTY');
  await tx.execute(
    sql`update uploads set size = ${size}, sha256 = ${hash.digest('hex')}
        where books_id = ${booksId} and id = ${id}`,
  );
  return id;
}

async function* piecesOf(body: AsyncIterable<Uint8Array>): AsyncGenerator<Buffer> {
  let waiting: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of body) {
    waiting.push(chunk);
    size += chunk.length;
    if (size < PIECE) continue;
    yield Buffer.concat(waiting);
    waiting = [];
    size = 0;
  }
  if (size > 0) yield Buffer.concat(waiting);
}

const PieceRow = z.object({ bytes: z.instanceof(Buffer) });

/** The bytes of an upload, piece by piece. @throws {ZubrellError} UPLOAD_MISSING */
export async function* uploadBytes(
  database: Database,
  booksId: BooksId,
  uploadId: string,
): AsyncGenerator<Uint8Array> {
  for (let position = 0; ; position += 1) {
    // Each piece in a transaction of its own: reading may take long.
    const [piece] = await inBooks(database, booksId, (tx) =>
      rowsOf(
        tx,
        PieceRow,
        sql`select bytes from upload_pieces where books_id = ${booksId}
              and upload_id = ${uploadId} and position = ${position}`,
      ),
    );
    if (!piece && position === 0) fail('UPLOAD_MISSING');
    if (!piece) return;
    yield piece.bytes;
  }
}
