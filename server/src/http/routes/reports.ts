import { reportEndpoints } from '@zubrell/contract/endpoints/reports';
import { accountTotals } from '../../modules/reports/accountTotals.ts';
import { agedDocuments } from '../../modules/reports/agedDocuments.ts';
import { cashFlow } from '../../modules/reports/cashFlow.ts';
import { clearingItems } from '../../modules/reports/clearingItems.ts';
import { clientMoney, clientMovements } from '../../modules/reports/clientMoney.ts';
import { groupedTotals } from '../../modules/reports/groupedTotals.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query } from '../command.ts';
import { serve } from '../serve.ts';

/** What reports are made of. */
export function reportRoutes(api: Api, services: Services): void {
  serve(api, reportEndpoints.accountTotals, (request) =>
    query(services, request, (tx, booksId) => accountTotals(tx, booksId, request.query)),
  );

  serve(api, reportEndpoints.groupedTotals, (request) =>
    query(services, request, (tx, booksId) => groupedTotals(tx, booksId, request.query)),
  );

  serve(api, reportEndpoints.agedDocuments, (request) =>
    query(services, request, (tx, booksId) => agedDocuments(tx, booksId, request.query)),
  );

  serve(api, reportEndpoints.cashFlow, (request) =>
    query(services, request, (tx, booksId) => cashFlow(tx, booksId, request.query)),
  );

  serve(api, reportEndpoints.clearingItems, (request) =>
    query(services, request, (tx, booksId) => clearingItems(tx, booksId, request.query.on)),
  );

  serve(api, reportEndpoints.clientMoney, (request) =>
    query(services, request, (tx, booksId) => clientMoney(tx, booksId, request.query)),
  );

  serve(api, reportEndpoints.clientMovements, (request) =>
    query(services, request, (tx, booksId) => clientMovements(tx, booksId, request.query)),
  );
}
