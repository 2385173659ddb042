import { jobEndpoints } from '@zubrell/contract/endpoints/jobs';
import { settleDeadWork } from '../../jobs/sweeper.ts';
import { giveJobUp, jobsOf, tryJobAgain } from '../../modules/jobs/queries.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query } from '../command.ts';
import { serve } from '../serve.ts';

/** What is done in the background: for the owner to look at, try again or give up. */
export function jobRoutes(api: Api, services: Services): void {
  serve(api, jobEndpoints.jobs, async (request) => ({
    jobs: await query(services, request, (tx, booksId) => jobsOf(tx, booksId)),
  }));

  serve(api, jobEndpoints.tryJobAgain, async (request) => {
    await query(services, request, (tx, booksId) => tryJobAgain(tx, booksId, request.params.jobId));
    return {};
  });

  serve(api, jobEndpoints.giveJobUp, async (request) => {
    await query(services, request, (tx, booksId) => giveJobUp(tx, booksId, request.params.jobId));
    // Its batch or feed waits for nothing any more.
    await settleDeadWork(services);
    return {};
  });
}
