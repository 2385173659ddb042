import type { FastifyRequest } from 'fastify';
import type { BooksTx } from '../db/database.ts';
import {
  addAttachment,
  type KeptWith,
  LARGEST_ATTACHMENT,
} from '../modules/questions/attachments.ts';
import type { Services } from '../services.ts';
import { actorOf, query } from './command.ts';
import type { Uploads } from './uploads.ts';

/** What the routes that take attachments work with. */
export interface TakingAttachments {
  readonly services: Services;
  readonly uploads: Uploads;
}

/**
 * Takes the file that a request sends, and keeps it with something of the books.
 *
 * @param check refuses who may not
 */
export function takeAttachment(
  { services, uploads }: TakingAttachments,
  request: FastifyRequest,
  keptWith: KeptWith,
  check: (books: BooksTx) => Promise<void> = async () => undefined,
): Promise<{ id: string }> {
  const { fileName } = request.query as { readonly fileName: string };
  return uploads.take(request, LARGEST_ATTACHMENT, (file) =>
    query(services, request, async (tx, booksId) => {
      await check({ tx, booksId });
      const acting = { tx, booksId, clock: services.clock, actor: actorOf(request) };
      return { id: await addAttachment(acting, keptWith, fileName, file) };
    }),
  );
}
