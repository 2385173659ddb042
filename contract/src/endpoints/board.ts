import { Board, SinceVisit } from '../board.ts';
import { BooksParams } from '../common.ts';
import { endpoints } from '../endpoint.ts';

/** The Board: what is left to do, at a glance. */
export const boardEndpoints = endpoints({
  board: {
    method: 'GET',
    path: '/books/:booksId/board',
    access: 'reviewer',
    params: BooksParams,
    answer: Board,
    reads: ['board'],
  },
  /** Tells that its reader is here, and what was done since their visit before. */
  visit: {
    method: 'POST',
    path: '/books/:booksId/visit',
    access: 'reviewer',
    params: BooksParams,
    answer: SinceVisit,
    reads: ['board'],
  },
});
