import type { FastifyInstance, FastifyRequest } from 'fastify';
import { namedBooks } from './access.ts';

/** Where a request went: its route, not its address, in which there may be wording; and the books it is about. */
export function placeOf(request: FastifyRequest) {
  const booksId = namedBooks(request);
  return {
    method: request.method,
    route: request.routeOptions.url ?? 'none',
    ...(booksId === null ? {} : { booksId }),
  };
}

/** Logs each request when it was answered, and tells its id to who asked, so that they can name it. */
export function logRequests(app: FastifyInstance): void {
  app.addHook('onRequest', async (request, reply) => {
    reply.header('x-request-id', request.id);
  });
  app.addHook('onResponse', async (request, reply) => {
    const { statusCode: status, elapsedTime } = reply;
    // Whoever watches the server asks every few seconds.
    const isWatching = /^\/(health|metrics)\b/.test(request.url);
    request.log[isWatching ? 'debug' : 'info'](
      { ...placeOf(request), status, ms: Math.round(elapsedTime) },
      'answered',
    );
  });
}
