import { BooksParams, Id } from '@zubrell/contract/common';
import { Balances, Entry, Register } from '@zubrell/contract/ledger';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import { query } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { balances, entryOf, register } from './queries.ts';

/** Balances, an account's register, an entry. */
export function ledgerRoutes(api: Api, services: Services): void {
  api.get(
    '/api/books/:booksId/balances',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, response: { 200: Balances } },
    },
    (request) => query(services, request, balances),
  );

  api.get(
    '/api/books/:booksId/accounts/:accountId/register',
    {
      config: { access: 'reviewer' },
      schema: {
        params: BooksParams.extend({ accountId: Id }),
        querystring: z.object({ cursor: z.string().optional() }),
        response: { 200: Register },
      },
    },
    (request) =>
      query(services, request, (tx, booksId) =>
        register(tx, booksId, request.params.accountId, request.query.cursor),
      ),
  );

  api.get(
    '/api/books/:booksId/entries/:entryId',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams.extend({ entryId: Id }), response: { 200: Entry } },
    },
    (request) =>
      query(services, request, (tx, booksId) => entryOf(tx, booksId, request.params.entryId)),
  );
}
