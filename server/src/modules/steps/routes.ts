import { BooksParams, Cursor } from '@zubrell/contract/common';
import { RedoStep, Steps, StepsWanted, UndoDone, UndoStep } from '@zubrell/contract/desk';
import { fail } from '@zubrell/core/errors';
import type { Api } from '../../app.ts';
import { query, runCommand } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { type StepEvents, writeStep } from '../events/stepEvents.ts';
import { stepsAfter, stepsOf } from './queries.ts';
import { redoStep, undoStep } from './undoStep.ts';

/** The history of the books, undo and redo, and the stream of step numbers. */
export function stepRoutes(api: Api, services: Services, events: StepEvents): void {
  api.get(
    '/api/books/:booksId/steps',
    {
      config: { access: 'reviewer' },
      schema: {
        params: BooksParams,
        querystring: StepsWanted.extend({ cursor: Cursor.optional() }),
        response: { 200: Steps },
      },
    },
    (request) =>
      query(services, request, (tx, booksId) => {
        const { cursor, ...wanted } = request.query;
        return stepsOf(tx, booksId, wanted, cursor);
      }),
  );

  api.post(
    '/api/books/:booksId/steps/undo',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: UndoStep, response: { 200: UndoDone } },
    },
    (request) => runCommand(services, request, (command) => undoStep(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/steps/redo',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: RedoStep, response: { 200: UndoDone } },
    },
    (request) => runCommand(services, request, (command) => redoStep(command, request.body)),
  );

  api.get(
    '/api/books/:booksId/events',
    // It carries the numbers of steps only, so who answers questions may hear of them as well.
    { config: { access: 'client' }, schema: { params: BooksParams } },
    async (request, reply) => {
      const { booksId } = request.params;
      const lastSeen = lastSeenBy(request.headers['last-event-id']);
      const { user, session } = request;
      if (!user || !session) return fail('SIGN_IN_NEEDED');
      events.checkRoom(user.id);
      reply.hijack();
      reply.raw.writeHead(200, {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store',
        'x-accel-buffering': 'no',
      });
      reply.raw.write('retry: 1000\n\n');
      events.add(booksId, { stream: reply.raw, userId: user.id, session });
      if (lastSeen === null) return;
      const missed = await query(services, request, (tx) => stepsAfter(tx, booksId, lastSeen));
      for (const no of missed) writeStep(reply.raw, no);
    },
  );
}

/** The number of the last step that a browser knows. @throws {ZubrellError} EVENT_ID_WRONG */
function lastSeenBy(header: string | string[] | undefined): number | null {
  if (header === undefined || header === '') return null;
  return typeof header === 'string' && /^\d{1,15}$/.test(header)
    ? Number(header)
    : fail('EVENT_ID_WRONG');
}
