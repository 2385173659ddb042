import { ledgerEndpoints } from '@zubrell/contract/endpoints/ledger';
import { findEntries } from '../../modules/ledger/findEntries.ts';
import { changeEntry, enterByHand, voidEntry } from '../../modules/ledger/handEntries.ts';
import { importEntries } from '../../modules/ledger/importEntries.ts';
import { ledgerRows } from '../../modules/ledger/ledgerRows.ts';
import { balances, entryOf, outstanding } from '../../modules/ledger/queries.ts';
import { LARGEST_ATTACHMENT } from '../../modules/questions/attachments.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';
import { takeAttachment } from '../takeAttachment.ts';
import type { Uploads } from '../uploads.ts';

/** Balances, an account's register, entries made by hand and what the bank has not reported of them. */
export function ledgerRoutes(api: Api, services: Services, uploads: Uploads): void {
  serve(api, ledgerEndpoints.balances, (request) => query(services, request, balances));

  serve(api, ledgerEndpoints.register, (request) =>
    query(services, request, (tx, booksId) =>
      ledgerRows(tx, booksId, {
        ...request.query,
        accountId: request.params.accountId,
        order: 'newest',
      }),
    ),
  );

  serve(api, ledgerEndpoints.ledgerRows, (request) =>
    query(services, request, (tx, booksId) => ledgerRows(tx, booksId, request.query)),
  );

  serve(api, ledgerEndpoints.findEntries, (request) =>
    query(services, request, async (tx, booksId) => ({
      entries: await findEntries(tx, booksId, request.query.search),
    })),
  );

  serve(api, ledgerEndpoints.entry, (request) =>
    query(services, request, (tx, booksId) => entryOf(tx, booksId, request.params.entryId)),
  );

  serve(api, ledgerEndpoints.outstanding, (request) =>
    query(services, request, (tx, booksId) => outstanding(tx, booksId, services.clock.today())),
  );

  serve(api, ledgerEndpoints.enterByHand, (request) =>
    runCommand(services, request, (command) => enterByHand(command, request.body)),
  );

  serve(api, ledgerEndpoints.importEntries, (request) =>
    runCommand(services, request, (command) => importEntries(command, request.body)),
  );

  serve(api, ledgerEndpoints.changeEntry, (request) =>
    runCommand(services, request, (command) =>
      changeEntry(command, request.params.entryId, request.body),
    ),
  );

  serve(
    api,
    ledgerEndpoints.addEntryAttachment,
    (request) =>
      takeAttachment({ services, uploads }, request, { entryId: request.params.entryId }),
    { bodyLimit: LARGEST_ATTACHMENT },
  );

  serve(api, ledgerEndpoints.voidEntry, (request) =>
    runCommand(services, request, (command) => voidEntry(command, request.params.entryId)),
  );
}
