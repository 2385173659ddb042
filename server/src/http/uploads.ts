import { randomUUID } from 'node:crypto';
import { open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { fail } from '@zubrell/core/errors';
import type { FastifyRequest } from 'fastify';
import type { UploadedFile } from '../uploadedFile.ts';
import { actorOf } from './command.ts';

/** So many files come in at once: from one person, and into one set of books. */
const MOST_OF_USER = 3;
const MOST_OF_BOOKS = 8;
/** A file of which nothing more comes for so long is given up, in milliseconds. */
const STALLED = 20_000;

const MB = 1_048_576;

/** How files come in. */
export interface Uploads {
  /**
   * Takes a request's body into a file of its own, and only then does the work: however slowly a file comes in, it
   * keeps no connection of the database. The file has no name and is gone with the process.
   *
   * @param limit in bytes, whether or not the request says its length
   * @throws {ZubrellError} FILE_EMPTY, FILE_TOO_LARGE, UPLOADS_TOO_MANY, UPLOAD_STALLED
   */
  take<T>(
    request: FastifyRequest,
    limit: number,
    work: (file: UploadedFile) => Promise<T>,
  ): Promise<T>;
}

/** Opens a gate for files: it counts those that are coming in. @param stalled tests are more impatient */
export function openUploads(stalled: number = STALLED): Uploads {
  const coming = new Map<string, number>();

  function enter(who: string, most: number): void {
    const count = coming.get(who) ?? 0;
    if (count >= most) fail('UPLOADS_TOO_MANY', { count });
    coming.set(who, count + 1);
  }

  function leave(who: string): void {
    const count = (coming.get(who) ?? 1) - 1;
    if (count > 0) coming.set(who, count);
    else coming.delete(who);
  }

  return {
    async take(request, limit, work) {
      const user = `user ${actorOf(request).userId}`;
      // A file that new books are made of comes into none.
      const { booksId = user } = request.params as { readonly booksId?: string };
      const books = `books ${booksId}`;
      if (Number(request.headers['content-length'] ?? 0) > limit) tooLarge(limit);
      enter(user, MOST_OF_USER);
      try {
        enter(books, MOST_OF_BOOKS);
        try {
          return await throughFile(bodyOf(request), limit, stalled, work);
        } finally {
          leave(books);
        }
      } finally {
        leave(user);
      }
    },
  };
}

async function throughFile<T>(
  body: AsyncIterable<Uint8Array>,
  limit: number,
  stalled: number,
  work: (file: UploadedFile) => Promise<T>,
): Promise<T> {
  const name = join(tmpdir(), `zubrell-${randomUUID()}`);
  const file = await open(name, 'wx+', 0o600);
  try {
    // Open it stays; under its name nobody finds it, and a killed server leaves nothing behind.
    await rm(name);
    let size = 0;
    for await (const piece of untilStalled(body, stalled)) {
      size += piece.length;
      if (size > limit) tooLarge(limit);
      await file.write(piece);
    }
    if (size === 0) fail('FILE_EMPTY');
    const pieces = file.createReadStream({ start: 0, autoClose: false, highWaterMark: MB });
    return await work({ size, descriptor: file.fd, pieces });
  } finally {
    await file.close();
  }
}

/** The pieces of a body. @throws {ZubrellError} UPLOAD_STALLED where none comes for too long */
async function* untilStalled(
  body: AsyncIterable<Uint8Array>,
  stalled: number,
): AsyncGenerator<Uint8Array> {
  const pieces = body[Symbol.asyncIterator]();
  for (;;) {
    const waiting = new AbortController();
    const late = pause(stalled, null, { signal: waiting.signal }).catch(() => null);
    const next = pieces.next();
    next.catch(() => undefined);
    const got = await Promise.race([next, late]).finally(() => waiting.abort());
    if (got === null) fail('UPLOAD_STALLED', { seconds: Math.round(stalled / 1_000) });
    if (got.done) return;
    yield got.value;
  }
}

function bodyOf(request: FastifyRequest): AsyncIterable<Uint8Array> {
  const body = request.body as AsyncIterable<Uint8Array> | null | undefined;
  return body?.[Symbol.asyncIterator] === undefined ? fail('FILE_EMPTY') : body;
}

function tooLarge(limit: number): never {
  return fail('FILE_TOO_LARGE', { limit: Math.round(limit / MB) });
}
