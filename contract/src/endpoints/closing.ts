import { ClosingAction, MonthClosing, MonthParams, ReviewLines, ReviewSample } from '../closing.ts';
import { StepDone } from '../common.ts';
import { endpoints } from '../endpoint.ts';

/** Closing months. */
export const closingEndpoints = endpoints({
  monthClosing: {
    method: 'GET',
    path: '/books/:booksId/closings/:month',
    access: 'reviewer',
    params: MonthParams,
    answer: MonthClosing,
    reads: ['closing'],
  },
  closeMonth: {
    method: 'POST',
    path: '/books/:booksId/closings/:month',
    access: 'reviewer',
    params: MonthParams,
    body: ClosingAction,
    answer: StepDone,
    touches: ['closing', 'books'],
  },
  reviewSample: {
    method: 'GET',
    path: '/books/:booksId/closings/:month/sample',
    access: 'reviewer',
    params: MonthParams,
    answer: ReviewSample,
    reads: ['closing'],
  },
  reviewLines: {
    method: 'POST',
    path: '/books/:booksId/closings/:month/review-lines',
    access: 'reviewer',
    params: MonthParams,
    body: ReviewLines,
    answer: StepDone,
    touches: ['lineReview'],
  },
});
