import { boardEndpoints } from '@zubrell/contract/endpoints/board';
import type { Api } from '../../app.ts';
import { query } from '../../http/command.ts';
import { serve } from '../../http/serve.ts';
import type { Services } from '../../services.ts';
import { boardOf } from './queries.ts';

/** The Board: what is left to do, at a glance. */
export function boardRoutes(api: Api, services: Services): void {
  serve(api, boardEndpoints.board, (request) =>
    query(services, request, (tx, booksId) => boardOf(tx, booksId, services.clock.today())),
  );
}
