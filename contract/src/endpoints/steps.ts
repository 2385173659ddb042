import { stepThings } from '@zubrell/core/steps/stepThings';
import { z } from 'zod';
import { BooksParams, Cursor } from '../common.ts';
import {
  LinesDone,
  RedoStep,
  StepLines,
  Steps,
  StepsWanted,
  UndoDone,
  UndoLines,
  UndoStep,
} from '../desk.ts';
import { endpoints } from '../endpoint.ts';

const StepParams = BooksParams.extend({
  stepNo: z.coerce.number<number>().int().min(1).max(1_000_000_000),
});

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
  stepLines: {
    method: 'GET',
    path: '/books/:booksId/steps/:stepNo/lines',
    access: 'reviewer',
    params: StepParams,
    answer: StepLines,
    reads: ['steps', 'decidedLines'],
  },
  undoLines: {
    method: 'POST',
    path: '/books/:booksId/steps/:stepNo/lines/undo',
    access: 'reviewer',
    params: StepParams,
    body: UndoLines,
    answer: LinesDone,
    touches: ['line', 'entry', 'document'],
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
