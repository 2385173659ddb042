import { z } from 'zod';
import { BooksParams, Seen } from '../common.ts';
import { LinesDone, Target } from '../desk.ts';
import { endpoints } from '../endpoint.ts';
import { PairingView, PairingWanted, PairLines } from '../pairing.ts';

/** What lines could be in the books already, and pairing them with it. */
export const pairingEndpoints = endpoints({
  pairing: {
    method: 'GET',
    path: '/books/:booksId/pairing',
    access: 'bookkeeper',
    params: BooksParams,
    query: PairingWanted,
    answer: PairingView,
    reads: ['openLines', 'ledger', 'documents'],
  },
  pairLines: {
    method: 'POST',
    path: '/books/:booksId/lines/pair',
    access: 'bookkeeper',
    params: BooksParams,
    body: PairLines,
    answer: LinesDone,
    touches: ['line', 'entry', 'document'],
  },
  pairProposed: {
    method: 'POST',
    path: '/books/:booksId/lines/pair-proposed',
    access: 'bookkeeper',
    params: BooksParams,
    body: z.object({ target: Target, seenStep: Seen }),
    answer: LinesDone,
    touches: ['line', 'entry', 'document'],
  },
});
