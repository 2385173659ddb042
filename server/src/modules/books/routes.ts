import {
  AccountUse,
  BooksListing,
  BooksSetup,
  ChangeAccount,
  ChangeBooks,
  ChangePayee,
  MergePayee,
  NewAccount,
  NewBankAccount,
  NewBooks,
  NewCostObject,
  NewPayee,
  OpeningBalance,
  PayeeUse,
  Preferences,
} from '@zubrell/contract/books';
import { BooksParams, Id, StepDone } from '@zubrell/contract/common';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import { asUser } from '../../db/database.ts';
import { actorOf, query, runCommand } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { recordRequest } from '../audit/recordAccess.ts';
import { changeBooks } from './changeBooks.ts';
import { changeAccount, changePayee, mergePayee } from './changeThings.ts';
import { createBooks } from './createBooks.ts';
import {
  createAccount,
  createBankAccount,
  createCostObject,
  createPayee,
  postOpening,
} from './makeThings.ts';
import { savePreferences } from './preferences.ts';
import { accountUses, booksOfUser, booksSetup, payeeUses } from './queries.ts';

const PayeeParams = BooksParams.extend({ payeeId: Id });
const Made = StepDone.extend({ id: Id });

/** Books and what they are made of: accounts, payees, bank accounts. */
export function booksRoutes(api: Api, services: Services): void {
  api.get(
    '/api/books',
    {
      config: { access: 'signedIn' },
      schema: { response: { 200: z.object({ books: z.array(BooksListing) }) } },
    },
    async (request) => {
      const { userId } = actorOf(request);
      return {
        books: await asUser(services.database, userId, (tx) => booksOfUser(tx, userId)),
      };
    },
  );

  api.post(
    '/api/books',
    {
      config: { access: 'signedIn' },
      schema: { body: NewBooks, response: { 200: z.object({ id: Id }) } },
    },
    async (request) => ({
      id: await services.database.transaction(async (tx) => {
        const booksId = await createBooks(tx, services, actorOf(request), request.body);
        await recordRequest(tx, request, { kind: 'booksMade', booksId });
        return booksId;
      }),
    }),
  );

  api.get(
    '/api/books/:booksId/setup',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, response: { 200: BooksSetup } },
    },
    (request) =>
      query(services, request, (tx, booksId) => booksSetup(tx, booksId, actorOf(request).userId)),
  );

  api.patch(
    '/api/books/:booksId',
    {
      config: { access: 'owner' },
      schema: { params: BooksParams, body: ChangeBooks, response: { 200: StepDone } },
    },
    (request) =>
      runCommand(services, request, async (command) => {
        const done = await changeBooks(command, request.body);
        const record = { kind: 'settingsChanged', details: { step: done.step } } as const;
        await recordRequest(command.tx, request, { ...record, booksId: command.booksId });
        return done;
      }),
  );

  api.post(
    '/api/books/:booksId/accounts',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: NewAccount, response: { 200: Made } },
    },
    (request) => runCommand(services, request, (command) => createAccount(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/payees',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: NewPayee, response: { 200: Made } },
    },
    (request) => runCommand(services, request, (command) => createPayee(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/cost-objects',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: NewCostObject, response: { 200: Made } },
    },
    (request) =>
      runCommand(services, request, (command) => createCostObject(command, request.body)),
  );

  api.get(
    '/api/books/:booksId/payee-uses',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, response: { 200: z.object({ uses: z.array(PayeeUse) }) } },
    },
    (request) =>
      query(services, request, async (tx, booksId) => ({ uses: await payeeUses(tx, booksId) })),
  );

  api.get(
    '/api/books/:booksId/account-uses',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, response: { 200: z.object({ uses: z.array(AccountUse) }) } },
    },
    (request) =>
      query(services, request, async (tx, booksId) => ({ uses: await accountUses(tx, booksId) })),
  );

  api.put(
    '/api/books/:booksId/preferences',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, body: Preferences, response: { 200: Preferences } },
    },
    (request) =>
      query(services, request, (tx, booksId) =>
        savePreferences(tx, booksId, actorOf(request).userId, request.body),
      ),
  );

  api.patch(
    '/api/books/:booksId/payees/:payeeId',
    {
      config: { access: 'bookkeeper' },
      schema: { params: PayeeParams, body: ChangePayee, response: { 200: StepDone } },
    },
    (request) =>
      runCommand(services, request, (command) =>
        changePayee(command, request.params.payeeId, request.body),
      ),
  );

  api.post(
    '/api/books/:booksId/payees/:payeeId/merge',
    {
      config: { access: 'bookkeeper' },
      schema: { params: PayeeParams, body: MergePayee, response: { 200: StepDone } },
    },
    (request) =>
      runCommand(services, request, (command) =>
        mergePayee(command, request.params.payeeId, request.body),
      ),
  );

  api.patch(
    '/api/books/:booksId/accounts/:accountId',
    {
      config: { access: 'bookkeeper' },
      schema: {
        params: BooksParams.extend({ accountId: Id }),
        body: ChangeAccount,
        response: { 200: StepDone },
      },
    },
    (request) =>
      runCommand(services, request, (command) =>
        changeAccount(command, request.params.accountId, request.body),
      ),
  );

  api.post(
    '/api/books/:booksId/bank-accounts',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: NewBankAccount, response: { 200: Made } },
    },
    (request) =>
      runCommand(services, request, (command) => createBankAccount(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/bank-accounts/:bankAccountId/opening',
    {
      config: { access: 'bookkeeper' },
      schema: {
        params: BooksParams.extend({ bankAccountId: Id }),
        body: OpeningBalance,
        response: { 200: StepDone },
      },
    },
    (request) =>
      runCommand(services, request, (command) =>
        postOpening(command, request.params.bankAccountId, request.body),
      ),
  );
}
