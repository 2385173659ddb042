import { Board } from '@zubrell/contract/board';
import { BooksParams } from '@zubrell/contract/common';
import type { Api } from '../../app.ts';
import { query } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { boardOf } from './queries.ts';

/** The Board: what is left to do, at a glance. */
export function boardRoutes(api: Api, services: Services): void {
  api.get(
    '/api/books/:booksId/board',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, response: { 200: Board } },
    },
    (request) =>
      query(services, request, (tx, booksId) => boardOf(tx, booksId, services.clock.today())),
  );
}
