import { Coding } from '@zubrell/contract/coding';
import { BooksParams, Cursor, Id, StepDone, text } from '@zubrell/contract/common';
import {
  ConfirmBothReal,
  DecisionKind,
  DeskLine,
  DeskLines,
  DismissNudge,
  DraftSaved,
  ExcludeLines,
  FoundLine,
  Grouping,
  LaneCounts,
  LineMates,
  LineSheet,
  LinesDone,
  MergeStacks,
  MoveLines,
  OpenLane,
  OutstandingItem,
  PostLines,
  RecodeLines,
  ReopenLines,
  SaveDraft,
  Scope,
  ScopeProof,
  SplitStack,
  Stack,
  StackKey,
  SweepLines,
  SweepSummary,
} from '@zubrell/contract/desk';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import { actorOf, query, runCommand } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { outstandingItems, scopeProof } from '../proof/queries.ts';
import { mergeStacks, splitStack } from './aliases.ts';
import { confirmBothReal } from './confirmBothReal.ts';
import { dismissNudge } from './dismissNudge.ts';
import { excludeLines } from './excludeLines.ts';
import { lineMates } from './lineMates.ts';
import { moveLines } from './moveLines.ts';
import { postLines } from './postLines.ts';
import {
  decidedLines,
  findLines,
  laneCounts,
  lastSplit,
  lineSheet,
  stackLines,
  stacksOf,
} from './queries.ts';
import { recodeLines } from './recodeLines.ts';
import { reopenLines } from './reopenLines.ts';
import { saveDraft } from './saveDraft.ts';
import { sweepLines, sweepSummary } from './sweep.ts';

const LineParams = BooksParams.extend({ lineId: Id });

/** The Desk: lanes, stacks, lines, and what is decided about them. */
export function lineRoutes(api: Api, services: Services): void {
  api.get(
    '/api/books/:booksId/lanes',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, querystring: Scope, response: { 200: LaneCounts } },
    },
    (request) => query(services, request, (tx, booksId) => laneCounts(tx, booksId, request.query)),
  );

  api.get(
    '/api/books/:booksId/stacks',
    {
      config: { access: 'reviewer' },
      schema: {
        params: BooksParams,
        querystring: Scope.extend({ lane: OpenLane, grouping: Grouping }),
        response: { 200: z.object({ stacks: z.array(Stack) }) },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => {
        const { lane, grouping, ...scope } = request.query;
        return { stacks: await stacksOf(tx, booksId, scope, lane, grouping) };
      }),
  );

  api.get(
    '/api/books/:booksId/stack-lines',
    {
      config: { access: 'reviewer' },
      schema: {
        params: BooksParams,
        querystring: Scope.extend({ lane: OpenLane, ...StackKey.shape }),
        response: { 200: z.object({ lines: z.array(DeskLine) }) },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => {
        const { lane, grouping, key, direction, ...scope } = request.query;
        const stack = { grouping, key, direction };
        return { lines: await stackLines(tx, booksId, scope, lane, stack) };
      }),
  );

  api.get(
    '/api/books/:booksId/decided-lines',
    {
      config: { access: 'reviewer' },
      schema: {
        params: BooksParams,
        querystring: Scope.extend({
          kind: DecisionKind.optional(),
          cursor: Cursor.optional(),
        }),
        response: { 200: DeskLines },
      },
    },
    (request) =>
      query(services, request, (tx, booksId) => {
        const { kind, cursor, ...scope } = request.query;
        return decidedLines(tx, booksId, scope, kind, cursor);
      }),
  );

  api.get(
    '/api/books/:booksId/lines/:lineId',
    {
      config: { access: 'reviewer' },
      schema: { params: LineParams, response: { 200: LineSheet } },
    },
    (request) =>
      query(services, request, (tx, booksId) => lineSheet(tx, booksId, request.params.lineId)),
  );

  api.get(
    '/api/books/:booksId/proof',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, querystring: Scope, response: { 200: ScopeProof } },
    },
    (request) =>
      query(services, request, async (tx, booksId) => ({
        proof: await scopeProof(tx, booksId, request.query),
      })),
  );

  api.get(
    '/api/books/:booksId/proof/outstanding',
    {
      config: { access: 'reviewer' },
      schema: {
        params: BooksParams,
        querystring: Scope,
        response: { 200: z.object({ items: z.array(OutstandingItem) }) },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => ({
        items: await outstandingItems(tx, booksId, request.query),
      })),
  );

  api.get(
    '/api/books/:booksId/lines/:lineId/mates',
    {
      config: { access: 'reviewer' },
      schema: { params: LineParams, response: { 200: LineMates } },
    },
    (request) =>
      query(services, request, (tx, booksId) => lineMates(tx, booksId, request.params.lineId)),
  );

  api.put(
    '/api/books/:booksId/lines/:lineId/draft',
    {
      config: { access: 'bookkeeper' },
      schema: { params: LineParams, body: SaveDraft, response: { 200: DraftSaved } },
    },
    (request) =>
      query(services, request, (tx, booksId) =>
        saveDraft(tx, services, booksId, actorOf(request), request.params.lineId, request.body),
      ),
  );

  api.post(
    '/api/books/:booksId/lines/reopen',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: ReopenLines, response: { 200: LinesDone } },
    },
    (request) => runCommand(services, request, (command) => reopenLines(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/lines/post',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: PostLines, response: { 200: LinesDone } },
    },
    (request) => runCommand(services, request, (command) => postLines(command, request.body)),
  );

  api.get(
    '/api/books/:booksId/payees/:payeeId/last-split',
    {
      config: { access: 'bookkeeper' },
      schema: {
        params: BooksParams.extend({ payeeId: Id }),
        response: { 200: z.object({ coding: Coding.nullable() }) },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => ({
        coding: await lastSplit(tx, booksId, request.params.payeeId),
      })),
  );

  api.get(
    '/api/books/:booksId/found-lines',
    {
      config: { access: 'reviewer' },
      schema: {
        params: BooksParams,
        querystring: z.object({ search: text(200).min(1) }),
        response: { 200: z.object({ lines: z.array(FoundLine) }) },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => ({
        lines: await findLines(tx, booksId, request.query.search),
      })),
  );

  api.get(
    '/api/books/:booksId/sweep',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, querystring: Scope, response: { 200: SweepSummary } },
    },
    (request) =>
      query(services, request, (tx, booksId) => sweepSummary(tx, booksId, request.query)),
  );

  api.post(
    '/api/books/:booksId/lines/sweep',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: SweepLines, response: { 200: LinesDone } },
    },
    (request) => runCommand(services, request, (command) => sweepLines(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/lines/recode',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: RecodeLines, response: { 200: LinesDone } },
    },
    (request) => runCommand(services, request, (command) => recodeLines(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/lines/move',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: MoveLines, response: { 200: LinesDone } },
    },
    (request) => runCommand(services, request, (command) => moveLines(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/stacks/merge',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: MergeStacks, response: { 200: StepDone } },
    },
    (request) => runCommand(services, request, (command) => mergeStacks(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/nudges/dismiss',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: DismissNudge, response: { 200: StepDone } },
    },
    (request) => runCommand(services, request, (command) => dismissNudge(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/stacks/split',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: SplitStack, response: { 200: StepDone } },
    },
    (request) => runCommand(services, request, (command) => splitStack(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/lines/exclude',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: ExcludeLines, response: { 200: LinesDone } },
    },
    (request) => runCommand(services, request, (command) => excludeLines(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/lines/both-real',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: ConfirmBothReal, response: { 200: LinesDone } },
    },
    (request) => runCommand(services, request, (command) => confirmBothReal(command, request.body)),
  );
}
