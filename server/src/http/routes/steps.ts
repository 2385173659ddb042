import { stepEndpoints } from '@zubrell/contract/endpoints/steps';
import { fail } from '@zubrell/core/errors';
import { stepLines, undoLines } from '../../modules/lines/stepLines.ts';
import { stepsAfter, stepsOf } from '../../modules/steps/queries.ts';
import { redoStep, undoStep } from '../../modules/steps/undoStep.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';
import { type StepEvents, writeStep } from '../stepEvents.ts';

/** The history of the books, undo and redo, and the stream of step numbers. */
export function stepRoutes(api: Api, services: Services, events: StepEvents): void {
  serve(api, stepEndpoints.steps, (request) =>
    query(services, request, (tx, booksId) => {
      const { cursor, ...wanted } = request.query;
      return stepsOf(tx, booksId, wanted, cursor);
    }),
  );

  serve(api, stepEndpoints.stepLines, (request) =>
    query(services, request, (tx, booksId) => stepLines({ tx, booksId }, request.params.stepNo)),
  );

  serve(api, stepEndpoints.undoLines, (request) =>
    runCommand(services, request, (command) =>
      undoLines(command, request.params.stepNo, request.body.lineIds),
    ),
  );

  serve(api, stepEndpoints.undo, (request) =>
    runCommand(services, request, (command) => undoStep(command, request.body)),
  );

  serve(api, stepEndpoints.redo, (request) =>
    runCommand(services, request, (command) => redoStep(command, request.body)),
  );

  serve(api, stepEndpoints.events, async (request, reply) => {
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
    for (const event of missed) writeStep(reply.raw, event);
  });
}

/** The number of the last step that a browser knows. @throws {ZubrellError} EVENT_ID_WRONG */
function lastSeenBy(header: string | string[] | undefined): number | null {
  if (header === undefined || header === '') return null;
  return typeof header === 'string' && /^\d{1,15}$/.test(header)
    ? Number(header)
    : fail('EVENT_ID_WRONG');
}
