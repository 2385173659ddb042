import { auditEndpoints } from '@zubrell/contract/endpoints/audit';
import { recordsOf } from '../../modules/audit/queries.ts';
import { verifyRecords, verifySteps } from '../../modules/audit/verifyChains.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query } from '../command.ts';
import { recordRequest } from '../recordRequest.ts';
import { serve } from '../serve.ts';

/** What is on record of who got in, was refused, or changed who may do what. */
export function auditRoutes(api: Api, services: Services): void {
  serve(api, auditEndpoints.records, (request) =>
    query(services, request, (tx, booksId) => {
      const { cursor, ...wanted } = request.query;
      return recordsOf(tx, booksId, wanted, cursor);
    }),
  );

  serve(api, auditEndpoints.checkChains, (request) =>
    query(services, request, async (tx, booksId) => ({
      chains: [await verifySteps(tx, booksId), await verifyRecords(tx, booksId)],
    })),
  );

  serve(api, auditEndpoints.recordExport, (request) =>
    query(services, request, async (tx, booksId) => {
      await recordRequest(tx, request, { kind: 'exported', booksId, details: request.body });
      return {};
    }),
  );
}
