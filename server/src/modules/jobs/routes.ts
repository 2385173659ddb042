import { BooksParams } from '@zubrell/contract/common';
import { BackgroundJob, BackgroundJobs } from '@zubrell/contract/jobs';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import { query } from '../../http/command.ts';
import { settleDeadWork } from '../../jobs/sweeper.ts';
import type { Services } from '../../services.ts';
import { giveJobUp, jobsOf, tryJobAgain } from './queries.ts';

const JobParams = BooksParams.extend({ jobId: BackgroundJob.shape.id });
const nothing = z.object({});

/** What is done in the background: for the owner to look at, try again or give up. */
export function jobRoutes(api: Api, services: Services): void {
  api.get(
    '/api/books/:booksId/jobs',
    {
      config: { access: 'owner' },
      schema: { params: BooksParams, response: { 200: BackgroundJobs } },
    },
    async (request) => ({
      jobs: await query(services, request, (tx, booksId) => jobsOf(tx, booksId)),
    }),
  );

  api.post(
    '/api/books/:booksId/jobs/:jobId/again',
    {
      config: { access: 'owner' },
      schema: { params: JobParams, response: { 200: nothing } },
    },
    async (request) => {
      await query(services, request, (tx, booksId) =>
        tryJobAgain(tx, booksId, request.params.jobId),
      );
      return {};
    },
  );

  api.post(
    '/api/books/:booksId/jobs/:jobId/give-up',
    {
      config: { access: 'owner' },
      schema: { params: JobParams, response: { 200: nothing } },
    },
    async (request) => {
      await query(services, request, (tx, booksId) => giveJobUp(tx, booksId, request.params.jobId));
      // Its batch or feed waits for nothing any more.
      await settleDeadWork(services);
      return {};
    },
  );
}
