import { BooksParams, Id, LineParams, StepDone } from '../common.ts';
import { endpoints } from '../endpoint.ts';
import { CodingRecord, Evidence, HabitQuery, Habits, MarkHabit } from '../habits.ts';

/** Habits with their evidence and records; blocking and forgetting them. */
export const habitEndpoints = endpoints({
  habits: {
    method: 'GET',
    path: '/books/:booksId/habits',
    access: 'reviewer',
    params: BooksParams,
    query: HabitQuery,
    answer: Habits,
    isPaged: true,
    reads: ['habits'],
  },
  evidence: {
    method: 'GET',
    path: '/books/:booksId/lines/:lineId/evidence',
    access: 'reviewer',
    params: LineParams,
    answer: Evidence,
    reads: ['habits'],
  },
  codingRecord: {
    method: 'GET',
    path: '/books/:booksId/coding-record',
    access: 'reviewer',
    params: BooksParams,
    answer: CodingRecord,
    reads: ['decidedLines'],
  },
  markHabit: {
    method: 'POST',
    path: '/books/:booksId/habits/marks',
    access: 'bookkeeper',
    params: BooksParams,
    body: MarkHabit,
    answer: StepDone,
    touches: ['habitMark'],
  },
  unmarkHabit: {
    method: 'POST',
    path: '/books/:booksId/habits/marks/:markId/end',
    access: 'bookkeeper',
    params: BooksParams.extend({ markId: Id }),
    answer: StepDone,
    touches: ['habitMark'],
  },
});
