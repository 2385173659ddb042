import { booksEndpoints } from '@zubrell/contract/endpoints/books';
import { asUser } from '../../db/database.ts';
import { changeBooks } from '../../modules/books/changeBooks.ts';
import { changeAccount, changePayee, mergePayee } from '../../modules/books/changeThings.ts';
import { createBooks } from '../../modules/books/createBooks.ts';
import { importChart } from '../../modules/books/importChart.ts';
import {
  createAccount,
  createBankAccount,
  createCostObject,
  createPayee,
} from '../../modules/books/makeThings.ts';
import { mergeAccount } from '../../modules/books/mergeAccount.ts';
import { savePreferences } from '../../modules/books/preferences.ts';
import { accountUses, booksSetup, payeeUses } from '../../modules/books/queries.ts';
import { nameClients, postOpening } from '../../modules/ledger/openingBalance.ts';
import { booksOverview } from '../../modules/overview/booksOverview.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { actorOf, query, runCommand } from '../command.ts';
import { recordRequest } from '../recordRequest.ts';
import { serve } from '../serve.ts';

/** Books and what they are made of: accounts, payees, bank accounts. */
export function booksRoutes(api: Api, services: Services): void {
  serve(api, booksEndpoints.listBooks, async (request) => {
    const { userId } = actorOf(request);
    return {
      books: await asUser(services.database, userId, (tx) => booksOverview(tx, userId)),
    };
  });

  serve(api, booksEndpoints.createBooks, async (request) => ({
    id: await services.database.transaction(async (tx) => {
      const booksId = await createBooks(tx, services, actorOf(request), request.body);
      await recordRequest(tx, request, { kind: 'booksMade', booksId });
      return booksId;
    }),
  }));

  serve(api, booksEndpoints.setup, (request) =>
    query(services, request, (tx, booksId) => booksSetup(tx, booksId, actorOf(request).userId)),
  );

  serve(api, booksEndpoints.changeBooks, (request) =>
    runCommand(services, request, async (command) => {
      const done = await changeBooks(command, request.body);
      const record = { kind: 'settingsChanged', details: { step: done.step } } as const;
      await recordRequest(command.tx, request, { ...record, booksId: command.booksId });
      return done;
    }),
  );

  serve(api, booksEndpoints.createAccount, (request) =>
    runCommand(services, request, (command) => createAccount(command, request.body)),
  );

  serve(api, booksEndpoints.importChart, (request) =>
    runCommand(services, request, (command) => importChart(command, request.body.text)),
  );

  serve(api, booksEndpoints.createPayee, (request) =>
    runCommand(services, request, (command) => createPayee(command, request.body)),
  );

  serve(api, booksEndpoints.createCostObject, (request) =>
    runCommand(services, request, (command) => createCostObject(command, request.body)),
  );

  serve(api, booksEndpoints.payeeUses, (request) =>
    query(services, request, async (tx, booksId) => ({ uses: await payeeUses(tx, booksId) })),
  );

  serve(api, booksEndpoints.accountUses, (request) =>
    query(services, request, async (tx, booksId) => ({ uses: await accountUses(tx, booksId) })),
  );

  serve(api, booksEndpoints.savePreferences, (request) =>
    query(services, request, (tx, booksId) =>
      savePreferences(tx, booksId, actorOf(request).userId, request.body),
    ),
  );

  serve(api, booksEndpoints.changePayee, (request) =>
    runCommand(services, request, (command) =>
      changePayee(command, request.params.payeeId, request.body),
    ),
  );

  serve(api, booksEndpoints.mergePayee, (request) =>
    runCommand(services, request, (command) =>
      mergePayee(command, request.params.payeeId, request.body),
    ),
  );

  serve(api, booksEndpoints.changeAccount, (request) =>
    runCommand(services, request, (command) =>
      changeAccount(command, request.params.accountId, request.body),
    ),
  );

  serve(api, booksEndpoints.mergeAccount, (request) =>
    runCommand(services, request, (command) =>
      mergeAccount(command, request.params.accountId, request.body),
    ),
  );

  serve(api, booksEndpoints.createBankAccount, (request) =>
    runCommand(services, request, (command) => createBankAccount(command, request.body)),
  );

  serve(api, booksEndpoints.nameClients, (request) =>
    runCommand(services, request, (command) =>
      nameClients(command, request.params.bankAccountId, request.body),
    ),
  );

  serve(api, booksEndpoints.postOpening, (request) =>
    runCommand(services, request, (command) =>
      postOpening(command, request.params.bankAccountId, request.body),
    ),
  );
}
