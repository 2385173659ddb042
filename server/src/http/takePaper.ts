import type { FastifyRequest } from 'fastify';
import type { BooksTx } from '../db/database.ts';
import { addAttachment, type KeptWith, LARGEST_PAPER } from '../modules/questions/attachments.ts';
import type { Services } from '../services.ts';
import { actorOf, query } from './command.ts';
import type { Uploads } from './uploads.ts';

/** What the routes that take papers work with. */
export interface TakingPapers {
  readonly services: Services;
  readonly uploads: Uploads;
}

/**
 * Takes the file that a request sends, and keeps it with something of the books.
 *
 * @param check refuses who may not
 */
export function takePaper(
  { services, uploads }: TakingPapers,
  request: FastifyRequest,
  keptWith: KeptWith,
  check: (books: BooksTx) => Promise<void> = async () => undefined,
): Promise<{ id: string }> {
  const { fileName } = request.query as { readonly fileName: string };
  return uploads.take(request, LARGEST_PAPER, (file) =>
    query(services, request, async (tx, booksId) => {
      await check({ tx, booksId });
      const acting = { tx, booksId, clock: services.clock, actor: actorOf(request) };
      return { id: await addAttachment(acting, keptWith, fileName, file) };
    }),
  );
}
