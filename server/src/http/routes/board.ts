import { boardEndpoints } from '@zubrell/contract/endpoints/board';
import { boardOf } from '../../modules/board/queries.ts';
import { beginVisit } from '../../modules/board/visit.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { actorOf, query } from '../command.ts';
import { serve } from '../serve.ts';

/** The Board: what is left to do, at a glance. */
export function boardRoutes(api: Api, services: Services): void {
  serve(api, boardEndpoints.board, (request) =>
    query(services, request, (tx, booksId) => boardOf(tx, booksId, services.clock.today())),
  );

  serve(api, boardEndpoints.visit, (request) =>
    query(services, request, (tx, booksId) =>
      beginVisit({ tx, booksId, clock: services.clock, actor: actorOf(request) }),
    ),
  );
}
