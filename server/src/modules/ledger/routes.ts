import { BooksParams, Cursor, Id, StepDone } from '@zubrell/contract/common';
import {
  Balances,
  EnterByHand,
  Entry,
  Imported,
  ImportRecords,
  Outstanding,
  Register,
} from '@zubrell/contract/ledger';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import { query, runCommand } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { changeEntry, enterByHand, voidEntry } from './handEntries.ts';
import { importEntries } from './importEntries.ts';
import { balances, entryOf, outstanding, register } from './queries.ts';

const EntryParams = BooksParams.extend({ entryId: Id });
const Done = StepDone.extend({ id: Id });

/** Balances, an account's register, entries made by hand and what the bank has not reported of them. */
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
        querystring: z.object({ cursor: Cursor.optional() }),
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
      schema: { params: EntryParams, response: { 200: Entry } },
    },
    (request) =>
      query(services, request, (tx, booksId) => entryOf(tx, booksId, request.params.entryId)),
  );

  api.get(
    '/api/books/:booksId/outstanding',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, response: { 200: Outstanding } },
    },
    (request) =>
      query(services, request, (tx, booksId) => outstanding(tx, booksId, services.clock.today())),
  );

  api.post(
    '/api/books/:booksId/entries',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: EnterByHand, response: { 200: Done } },
    },
    (request) =>
      runCommand(services, request, (command) => enterByHand(command, request.body.entry)),
  );

  api.post(
    '/api/books/:booksId/entries/import',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: ImportRecords, response: { 200: Imported } },
    },
    (request) => runCommand(services, request, (command) => importEntries(command, request.body)),
  );

  api.put(
    '/api/books/:booksId/entries/:entryId',
    {
      config: { access: 'bookkeeper' },
      schema: { params: EntryParams, body: EnterByHand, response: { 200: Done } },
    },
    (request) =>
      runCommand(services, request, (command) =>
        changeEntry(command, request.params.entryId, request.body.entry),
      ),
  );

  api.post(
    '/api/books/:booksId/entries/:entryId/void',
    {
      config: { access: 'bookkeeper' },
      schema: { params: EntryParams, response: { 200: Done } },
    },
    (request) =>
      runCommand(services, request, (command) => voidEntry(command, request.params.entryId)),
  );
}
