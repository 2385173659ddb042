import { z } from 'zod';
import { BooksParams, Id, text } from '../common.ts';
import { endpoints } from '../endpoint.ts';
import { ReportPeriod } from '../reports.ts';

/** All of a period as one archive, and new books made of one. */
export const handoverEndpoints = endpoints({
  handOver: {
    method: 'GET',
    path: '/books/:booksId/hand-over',
    access: 'reviewer',
    params: BooksParams,
    query: ReportPeriod,
    answer: null,
    reads: ['ledger'],
  },
  readArchive: {
    method: 'POST',
    path: '/archives',
    access: 'signedIn',
    query: z.object({ fileName: text(255).min(1) }),
    takesFile: true,
    answer: z.object({ id: Id }),
    touches: ['listing'],
  },
});
