import { AuditRecords, ChainChecks, Exported, RecordsWanted } from '@zubrell/contract/audit';
import { BooksParams, Cursor } from '@zubrell/contract/common';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import { query } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { recordsOf } from './queries.ts';
import { recordRequest } from './recordAccess.ts';
import { verifyRecords, verifySteps } from './verifyChains.ts';

/** What is on record of who got in, was refused, or changed who may do what. */
export function auditRoutes(api: Api, services: Services): void {
  api.get(
    '/api/books/:booksId/records',
    {
      config: { access: 'owner' },
      schema: {
        params: BooksParams,
        querystring: RecordsWanted.extend({ cursor: Cursor.optional() }),
        response: { 200: AuditRecords },
      },
    },
    (request) =>
      query(services, request, (tx, booksId) => {
        const { cursor, ...wanted } = request.query;
        return recordsOf(tx, booksId, wanted, cursor);
      }),
  );

  api.get(
    '/api/books/:booksId/records/check',
    {
      config: { access: 'owner' },
      schema: { params: BooksParams, response: { 200: ChainChecks } },
    },
    (request) =>
      query(services, request, async (tx, booksId) => ({
        chains: [await verifySteps(tx, booksId), await verifyRecords(tx, booksId)],
      })),
  );

  api.post(
    '/api/books/:booksId/exports',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, body: Exported, response: { 200: z.object({}) } },
    },
    (request) =>
      query(services, request, async (tx, booksId) => {
        await recordRequest(tx, request, { kind: 'exported', booksId, details: request.body });
        return {};
      }),
  );
}
