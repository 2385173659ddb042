import { stepThings } from '@zubrell/core/steps/stepThings';
import { BooksParams, Cursor } from '../common.ts';
import { RedoStep, Steps, StepsWanted, UndoDone, UndoStep } from '../desk.ts';
import { endpoints } from '../endpoint.ts';

/** The history of the books, undo and redo, and the stream of steps. */
export const stepEndpoints = endpoints({
  steps: {
    method: 'GET',
    path: '/books/:booksId/steps',
    access: 'reviewer',
    params: BooksParams,
    query: StepsWanted.extend({ cursor: Cursor.optional() }),
    answer: Steps,
    isPaged: true,
    reads: ['steps'],
  },
  undo: {
    method: 'POST',
    path: '/books/:booksId/steps/undo',
    access: 'reviewer',
    params: BooksParams,
    body: UndoStep,
    answer: UndoDone,
    touches: stepThings,
  },
  redo: {
    method: 'POST',
    path: '/books/:booksId/steps/redo',
    access: 'reviewer',
    params: BooksParams,
    body: RedoStep,
    answer: UndoDone,
    touches: stepThings,
  },
  /** It says kinds of things and numbers of steps only, so whoever answers questions may hear it too. */
  events: {
    method: 'GET',
    path: '/books/:booksId/events',
    access: 'client',
    params: BooksParams,
    answer: null,
    reads: [],
  },
});
