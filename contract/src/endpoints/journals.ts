import { BooksParams, EntryId, Made, StepDone } from '../common.ts';
import { endpoints } from '../endpoint.ts';
import {
  GivenJournalPlan,
  JournalPlanParams,
  JournalPlans,
  PostJournals,
  ReverseEntry,
  SkipJournal,
} from '../journals.ts';

/** Journals that recur, and journals that are reversed. */
export const journalEndpoints = endpoints({
  journalPlans: {
    method: 'GET',
    path: '/books/:booksId/journal-plans',
    access: 'reviewer',
    params: BooksParams,
    answer: JournalPlans,
    reads: ['journals'],
  },
  makeJournalPlan: {
    method: 'POST',
    path: '/books/:booksId/journal-plans',
    access: 'bookkeeper',
    params: BooksParams,
    body: GivenJournalPlan,
    answer: Made,
    touches: ['journalPlan'],
  },
  changeJournalPlan: {
    method: 'PUT',
    path: '/books/:booksId/journal-plans/:planId',
    access: 'bookkeeper',
    params: JournalPlanParams,
    body: GivenJournalPlan,
    answer: StepDone,
    touches: ['journalPlan'],
  },
  removeJournalPlan: {
    method: 'POST',
    path: '/books/:booksId/journal-plans/:planId/remove',
    access: 'bookkeeper',
    params: JournalPlanParams,
    answer: StepDone,
    touches: ['journalPlan'],
  },
  skipJournal: {
    method: 'POST',
    path: '/books/:booksId/journal-plans/:planId/skip',
    access: 'bookkeeper',
    params: JournalPlanParams,
    body: SkipJournal,
    answer: StepDone,
    touches: ['journalPlan'],
  },
  postJournals: {
    method: 'POST',
    path: '/books/:booksId/journal-plans/post',
    access: 'bookkeeper',
    params: BooksParams,
    body: PostJournals,
    answer: StepDone,
    touches: ['entry'],
  },
  reverseEntry: {
    method: 'POST',
    path: '/books/:booksId/entries/:entryId/reverse',
    access: 'bookkeeper',
    params: BooksParams.extend({ entryId: EntryId }),
    body: ReverseEntry,
    answer: Made,
    touches: ['entry'],
  },
});
