import { createHash } from 'node:crypto';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { FastifyRequest } from 'fastify';
import { z } from 'zod';
import { beginCommand } from '../commands/beginCommand.ts';
import { inBooks, rowsOf, type Tx, together } from '../db/database.ts';
import type { BooksCommand } from '../modules/steps/booksCommand.ts';
import { keepPresses } from '../modules/steps/keepPresses.ts';
import type { Actor, Services } from '../services.ts';

/** Longer than any client makes its keys, and short enough to be looked up. */
const LONGEST_KEY = 200;

/** The signed-in user as an actor. The access check has seen to it that there is one. */
export function actorOf(request: FastifyRequest): Actor {
  const user = request.user ?? fail('SIGN_IN_NEEDED');
  const key = request.headers['idempotency-key'];
  const known = typeof key === 'string' && key.length <= LONGEST_KEY ? key : null;
  return { userId: user.id, name: user.name, session: request.session, key: known };
}

/** The books that the address names. */
export function booksIdOf(request: FastifyRequest): string {
  return (request.params as { booksId: BooksId }).booksId;
}

const EarlierRow = z.object({ bodyHash: z.string(), answer: z.unknown() });

/** Runs a query on the books that the address names. */
export function query<T>(
  services: Services,
  request: FastifyRequest,
  work: (tx: Tx, booksId: BooksId) => Promise<T>,
): Promise<T> {
  const booksId = booksIdOf(request);
  return inBooks(services.database, booksId, (tx) => work(tx, booksId));
}

/** Does a command, and keeps how many keys and clicks led to its step where the browser says so. */
async function counted<T>(
  command: BooksCommand,
  request: FastifyRequest,
  work: (command: BooksCommand) => Promise<T>,
): Promise<T> {
  const answer = await work(command);
  await keepPresses(command, request.headers['x-presses']);
  return answer;
}

/**
 * Runs a command on the books that the address names, in one transaction, one at a time. With an
 * `Idempotency-Key`, the answer is stored in that transaction; the same key with the same body is
 * answered from there and does nothing again.
 *
 * @throws {ZubrellError} KEY_TOO_LONG; KEY_REUSED where the key came with another request
 */
export function runCommand<T>(
  services: Services,
  request: FastifyRequest,
  work: (command: BooksCommand) => Promise<T>,
): Promise<T> {
  const actor = actorOf(request);
  const key = request.headers['idempotency-key'];
  return query(services, request, async (tx, booksId) => {
    const begin = () => beginCommand(tx, services, booksId, actor);
    if (typeof key !== 'string' || key === '') return counted(await begin(), request, work);
    if (key.length > LONGEST_KEY) fail('KEY_TOO_LONG', { longest: LONGEST_KEY });
    const bodyHash = createHash('sha256')
      .update(`${actor.userId} ${request.method} ${request.url} ${JSON.stringify(request.body)}`)
      .digest('hex');
    const [command, [earlier]] = await together(
      begin(),
      rowsOf(
        tx,
        EarlierRow,
        sql`select body_hash as "bodyHash", answer from idempotency_keys
            where books_id = ${booksId} and key = ${key}`,
      ),
    );
    if (earlier) {
      if (earlier.bodyHash !== bodyHash) fail('KEY_REUSED');
      // It was written below, by the same request.
      return earlier.answer as T;
    }
    const answer = await counted(command, request, work);
    await tx.execute(
      sql`insert into idempotency_keys (books_id, key, body_hash, answer, created_at)
          values (${booksId}, ${key}, ${bodyHash}, ${JSON.stringify(answer)}::jsonb,
            ${services.clock.now().toISOString()})`,
    );
    return answer;
  });
}
