import { BooksParams, Cursor, GivenDate, Id, StepDone, text } from '@zubrell/contract/common';
import {
  BalanceByHand,
  Batch,
  BatchLines,
  BatchSheet,
  BatchStarted,
  KeepBatch,
  KeptLayout,
  LineByHand,
  LineFactsList,
  MoveBatch,
  TakeBackBatch,
  UploadDone,
} from '@zubrell/contract/intake';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import { query, runCommand } from '../../http/command.ts';
import type { Uploads } from '../../http/uploads.ts';
import type { Services } from '../../services.ts';
import { addBalance, addLine } from './byHand.ts';
import { keepApart } from './keepApart.ts';
import { moveBatch } from './moveBatch.ts';
import { batchesOf, batchLines, batchSheet, knownLines, layoutsOf } from './queries.ts';
import { startBatch } from './startBatch.ts';
import { takeBackBatch } from './takeBackBatch.ts';
import { checkRoomForUpload, storeUpload } from './uploads.ts';

const BatchParams = BooksParams.extend({ batchId: Id });

/** The largest file taken at once, in bytes. */
const LARGEST = 300 * 1024 * 1024;

/** Files come in here: the raw bytes first, then the order to keep a statement of them. */
export function intakeRoutes(api: Api, services: Services, uploads: Uploads): void {
  api.post(
    '/api/books/:booksId/uploads',
    {
      config: { access: 'bookkeeper' },
      bodyLimit: LARGEST,
      schema: {
        params: BooksParams,
        querystring: z.object({ fileName: text(255).min(1) }),
        response: { 200: UploadDone },
      },
    },
    (request) =>
      uploads.take(request, LARGEST, ({ size, pieces }) =>
        query(services, request, async (tx, booksId) => {
          await checkRoomForUpload(tx, booksId, size);
          const { fileName } = request.query;
          return { uploadId: await storeUpload(tx, services, booksId, fileName, pieces) };
        }),
      ),
  );

  api.get(
    '/api/books/:booksId/bank-accounts/:bankAccountId/line-facts',
    {
      config: { access: 'reviewer' },
      schema: {
        params: BooksParams.extend({ bankAccountId: Id }),
        querystring: z.object({
          from: GivenDate,
          to: GivenDate,
          closingDate: GivenDate,
        }),
        response: { 200: LineFactsList },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => {
        const { from, to, closingDate } = request.query;
        const { lines, ...known } = await knownLines(
          tx,
          booksId,
          request.params.bankAccountId,
          from,
          to,
          closingDate,
        );
        return { ...known, lines: [...lines] };
      }),
  );

  api.post(
    '/api/books/:booksId/batches',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: KeepBatch, response: { 200: BatchStarted } },
    },
    (request) => runCommand(services, request, (command) => startBatch(command, request.body)),
  );

  api.get(
    '/api/books/:booksId/batches',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, response: { 200: z.object({ batches: z.array(Batch) }) } },
    },
    (request) =>
      query(services, request, async (tx, booksId) => ({
        batches: await batchesOf(tx, booksId),
      })),
  );

  api.get(
    '/api/books/:booksId/batches/:batchId',
    {
      config: { access: 'reviewer' },
      schema: { params: BatchParams, response: { 200: BatchSheet } },
    },
    (request) =>
      query(services, request, (tx, booksId) => batchSheet(tx, booksId, request.params.batchId)),
  );

  api.get(
    '/api/books/:booksId/batches/:batchId/lines',
    {
      config: { access: 'reviewer' },
      schema: {
        params: BatchParams,
        querystring: z.object({ cursor: Cursor.optional() }),
        response: { 200: BatchLines },
      },
    },
    (request) =>
      query(services, request, (tx, booksId) =>
        batchLines(tx, booksId, request.params.batchId, request.query.cursor),
      ),
  );

  api.post(
    '/api/books/:booksId/batches/:batchId/lines/:lineId/keep-apart',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BatchParams.extend({ lineId: Id }), response: { 200: StepDone } },
    },
    (request) =>
      runCommand(services, request, (command) =>
        keepApart(command, request.params.batchId, request.params.lineId),
      ),
  );

  api.post(
    '/api/books/:booksId/batches/:batchId/take-back',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BatchParams, body: TakeBackBatch, response: { 200: StepDone } },
    },
    (request) =>
      runCommand(services, request, (command) =>
        takeBackBatch(command, request.params.batchId, request.body),
      ),
  );

  api.post(
    '/api/books/:booksId/batches/:batchId/move',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BatchParams, body: MoveBatch, response: { 200: StepDone } },
    },
    (request) =>
      runCommand(services, request, (command) =>
        moveBatch(command, request.params.batchId, request.body),
      ),
  );

  api.post(
    '/api/books/:booksId/bank-accounts/:bankAccountId/lines',
    {
      config: { access: 'bookkeeper' },
      schema: {
        params: BooksParams.extend({ bankAccountId: Id }),
        body: LineByHand,
        response: { 200: StepDone },
      },
    },
    (request) =>
      runCommand(services, request, (command) =>
        addLine(command, request.params.bankAccountId, request.body),
      ),
  );

  api.post(
    '/api/books/:booksId/bank-accounts/:bankAccountId/balances',
    {
      config: { access: 'bookkeeper' },
      schema: {
        params: BooksParams.extend({ bankAccountId: Id }),
        body: BalanceByHand,
        response: { 200: StepDone },
      },
    },
    (request) =>
      runCommand(services, request, (command) =>
        addBalance(command, request.params.bankAccountId, request.body),
      ),
  );

  api.get(
    '/api/books/:booksId/layouts',
    {
      config: { access: 'reviewer' },
      schema: {
        params: BooksParams,
        response: { 200: z.object({ layouts: z.array(KeptLayout) }) },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => ({
        layouts: await layoutsOf(tx, booksId),
      })),
  );
}
