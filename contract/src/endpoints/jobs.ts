import { BooksParams, Nothing } from '../common.ts';
import { endpoints } from '../endpoint.ts';
import { BackgroundJob, BackgroundJobs } from '../jobs.ts';

const JobParams = BooksParams.extend({ jobId: BackgroundJob.shape.id });

/** What is done in the background: for the owner to look at, try again or give up. */
export const jobEndpoints = endpoints({
  jobs: {
    method: 'GET',
    path: '/books/:booksId/jobs',
    access: 'owner',
    params: BooksParams,
    answer: BackgroundJobs,
    reads: ['jobs'],
  },
  tryJobAgain: {
    method: 'POST',
    path: '/books/:booksId/jobs/:jobId/again',
    access: 'owner',
    params: JobParams,
    answer: Nothing,
    touches: ['job'],
  },
  giveJobUp: {
    method: 'POST',
    path: '/books/:booksId/jobs/:jobId/give-up',
    access: 'owner',
    params: JobParams,
    answer: Nothing,
    touches: ['job'],
  },
});
