import { reportEndpoints } from '@zubrell/contract/endpoints/reports';
import { accountTotals, figureLegs } from '../../modules/reports/queries.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query } from '../command.ts';
import { serve } from '../serve.ts';

/** What reports are made of. */
export function reportRoutes(api: Api, services: Services): void {
  serve(api, reportEndpoints.accountTotals, (request) =>
    query(services, request, (tx, booksId) => accountTotals(tx, booksId, request.query)),
  );

  serve(api, reportEndpoints.figureLegs, (request) =>
    query(services, request, (tx, booksId) =>
      figureLegs(tx, booksId, request.params.accountId, request.query),
    ),
  );
}
