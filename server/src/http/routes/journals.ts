import { journalEndpoints } from '@zubrell/contract/endpoints/journals';
import {
  changeJournalPlan,
  makeJournalPlan,
  removeJournalPlan,
  skipJournal,
} from '../../modules/journals/changeJournalPlans.ts';
import { journalPlans } from '../../modules/journals/journalPlans.ts';
import { postJournals } from '../../modules/journals/postJournals.ts';
import { reverseEntry } from '../../modules/ledger/handEntries.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';

/** Journals that recur, and journals that are reversed. */
export function journalRoutes(api: Api, services: Services): void {
  serve(api, journalEndpoints.journalPlans, (request) =>
    query(services, request, (tx, booksId) => journalPlans(tx, booksId, services.clock.today())),
  );

  serve(api, journalEndpoints.makeJournalPlan, (request) =>
    runCommand(services, request, (command) => makeJournalPlan(command, request.body)),
  );

  serve(api, journalEndpoints.changeJournalPlan, (request) =>
    runCommand(services, request, (command) =>
      changeJournalPlan(command, request.params.planId, request.body),
    ),
  );

  serve(api, journalEndpoints.removeJournalPlan, (request) =>
    runCommand(services, request, (command) => removeJournalPlan(command, request.params.planId)),
  );

  serve(api, journalEndpoints.skipJournal, (request) =>
    runCommand(services, request, (command) =>
      skipJournal(command, request.params.planId, request.body.date),
    ),
  );

  serve(api, journalEndpoints.postJournals, (request) =>
    runCommand(services, request, (command) => postJournals(command, request.body)),
  );

  serve(api, journalEndpoints.reverseEntry, (request) =>
    runCommand(services, request, (command) =>
      reverseEntry(command, request.params.entryId, request.body.date),
    ),
  );
}
