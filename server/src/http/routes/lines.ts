import { lineEndpoints } from '@zubrell/contract/endpoints/lines';
import { together } from '../../db/database.ts';
import { lastStepOf } from '../../modules/books/queries.ts';
import { mergeStacks, splitStack } from '../../modules/lines/aliases.ts';
import { confirmBothReal } from '../../modules/lines/confirmBothReal.ts';
import { decidedIds, decidedSum } from '../../modules/lines/decidedTarget.ts';
import { excludeDecided, excludeLines } from '../../modules/lines/excludeLines.ts';
import { lineMates } from '../../modules/lines/lineMates.ts';
import { moveLines } from '../../modules/lines/moveLines.ts';
import { partsOfStack } from '../../modules/lines/partsOfStack.ts';
import { postLines } from '../../modules/lines/postLines.ts';
import {
  decidedLines,
  findLines,
  laneCounts,
  lastSplit,
  lineSheet,
  stackLines,
  stacksOf,
} from '../../modules/lines/queries.ts';
import { recodeLines } from '../../modules/lines/recodeLines.ts';
import { reopenLines } from '../../modules/lines/reopenLines.ts';
import { saveDraft, saveStackDraft } from '../../modules/lines/saveDraft.ts';
import { outstandingItems, scopeProof } from '../../modules/proof/queries.ts';
import { dismissedNudges } from '../../modules/proposals/dismissedNudges.ts';
import { dismissNudge } from '../../modules/proposals/dismissNudge.ts';
import { sweepLines, sweepSummary } from '../../modules/proposals/sweep.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { actorOf, query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';

/** The Desk: lanes, stacks, lines, and what is decided about them. */
export function lineRoutes(api: Api, services: Services): void {
  serve(api, lineEndpoints.lanes, (request) =>
    query(services, request, (tx, booksId) => laneCounts(tx, booksId, request.query)),
  );

  serve(api, lineEndpoints.stacks, (request) =>
    query(services, request, async (tx, booksId) => {
      const { lane, grouping, ...scope } = request.query;
      const [seenStep, stacks] = await together(
        lastStepOf(tx, booksId),
        stacksOf({ tx, booksId }, scope, lane, grouping),
      );
      return { seenStep, stacks };
    }),
  );

  serve(api, lineEndpoints.stackLines, (request) =>
    query(services, request, async (tx, booksId) => {
      const { lane, grouping, key, direction, ...scope } = request.query;
      const stack = { grouping, key, direction };
      return { lines: await stackLines({ tx, booksId }, scope, lane, stack) };
    }),
  );

  serve(api, lineEndpoints.stackParts, (request) =>
    query(services, request, async (tx, booksId) => {
      const { lane, grouping, key, direction, ...scope } = request.query;
      return {
        found: await partsOfStack({ tx, booksId }, scope, lane, { grouping, key, direction }),
      };
    }),
  );

  serve(api, lineEndpoints.decidedLines, (request) =>
    query(services, request, (tx, booksId) => {
      const { cursor, order = 'date', isTurned, ...decided } = request.query;
      return decidedLines({ tx, booksId }, decided, {
        cursor,
        order,
        isTurned: isTurned === 'true',
      });
    }),
  );

  serve(api, lineEndpoints.decidedSum, (request) =>
    query(services, request, (tx, booksId) => decidedSum({ tx, booksId }, request.query)),
  );

  serve(api, lineEndpoints.line, (request) =>
    query(services, request, (tx, booksId) => lineSheet(tx, booksId, request.params.lineId)),
  );

  serve(api, lineEndpoints.proof, (request) =>
    query(services, request, async (tx, booksId) => ({
      proof: await scopeProof(tx, booksId, request.query),
    })),
  );

  serve(api, lineEndpoints.proofOutstanding, (request) =>
    query(services, request, async (tx, booksId) => ({
      items: await outstandingItems(tx, booksId, request.query),
    })),
  );

  serve(api, lineEndpoints.lineMates, (request) =>
    query(services, request, (tx, booksId) => lineMates(tx, booksId, request.params.lineId)),
  );

  serve(api, lineEndpoints.saveDraft, (request) =>
    query(services, request, (tx, booksId) =>
      saveDraft(
        { tx, booksId, clock: services.clock, actor: actorOf(request) },
        request.params.lineId,
        request.body,
      ),
    ),
  );

  serve(api, lineEndpoints.saveStackDraft, (request) =>
    query(services, request, (tx, booksId) =>
      saveStackDraft({ tx, booksId, clock: services.clock, actor: actorOf(request) }, request.body),
    ),
  );

  serve(api, lineEndpoints.reopenLines, (request) =>
    runCommand(services, request, async (command) => {
      const { target, seenStep } = request.body;
      return reopenLines(command, await decidedIds(command, target), seenStep);
    }),
  );

  serve(api, lineEndpoints.postLines, (request) =>
    runCommand(services, request, (command) => postLines(command, request.body)),
  );

  serve(api, lineEndpoints.lastSplit, (request) =>
    query(services, request, async (tx, booksId) => ({
      coding: await lastSplit(tx, booksId, request.params.payeeId),
    })),
  );

  serve(api, lineEndpoints.findLines, (request) =>
    query(services, request, async (tx, booksId) => ({
      lines: await findLines(tx, booksId, request.query.search),
    })),
  );

  serve(api, lineEndpoints.sweepSummary, (request) =>
    query(services, request, (tx, booksId) => sweepSummary(tx, booksId, request.query)),
  );

  serve(api, lineEndpoints.sweepLines, (request) =>
    runCommand(services, request, (command) => sweepLines(command, request.body)),
  );

  serve(api, lineEndpoints.recodeLines, (request) =>
    runCommand(services, request, async (command) => {
      const { target, seenStep, ...change } = request.body;
      return recodeLines(command, await decidedIds(command, target), change, seenStep);
    }),
  );

  serve(api, lineEndpoints.excludeDecided, (request) =>
    runCommand(services, request, async (command) =>
      excludeDecided(command, await decidedIds(command, request.body.target), request.body),
    ),
  );

  serve(api, lineEndpoints.moveLines, (request) =>
    runCommand(services, request, (command) => moveLines(command, request.body)),
  );

  serve(api, lineEndpoints.mergeStacks, (request) =>
    runCommand(services, request, (command) => mergeStacks(command, request.body)),
  );

  serve(api, lineEndpoints.dismissedNudges, (request) =>
    query(services, request, async (tx, booksId) => ({
      dismissed: [...(await dismissedNudges(tx, booksId))],
    })),
  );

  serve(api, lineEndpoints.dismissNudge, (request) =>
    runCommand(services, request, (command) => dismissNudge(command, request.body)),
  );

  serve(api, lineEndpoints.splitStack, (request) =>
    runCommand(services, request, (command) => splitStack(command, request.body)),
  );

  serve(api, lineEndpoints.excludeLines, (request) =>
    runCommand(services, request, (command) => excludeLines(command, request.body)),
  );

  serve(api, lineEndpoints.confirmBothReal, (request) =>
    runCommand(services, request, (command) => confirmBothReal(command, request.body)),
  );
}
