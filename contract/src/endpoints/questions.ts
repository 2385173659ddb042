import { z } from 'zod';
import { BooksParams, Id, LineParams, QuestionId, StepDone, text } from '../common.ts';
import { LinesDone } from '../desk.ts';
import { endpoints } from '../endpoint.ts';
import {
  AnswerQuestion,
  AskLines,
  LineThread,
  Question,
  QuestionsToMe,
  SuspendLines,
} from '../questions.ts';

/** Questions about lines, their answers, and the attachments kept with lines. */
export const questionEndpoints = endpoints({
  questionsToMe: {
    method: 'GET',
    path: '/books/:booksId/questions-to-me',
    access: 'client',
    params: BooksParams,
    answer: QuestionsToMe,
    reads: ['questions', 'attachments'],
  },
  suspendLines: {
    method: 'POST',
    path: '/books/:booksId/lines/suspend',
    access: 'bookkeeper',
    params: BooksParams,
    body: SuspendLines,
    answer: LinesDone,
    touches: ['line', 'entry', 'question'],
  },
  questions: {
    method: 'GET',
    path: '/books/:booksId/questions',
    access: 'reviewer',
    params: BooksParams,
    answer: z.object({ questions: z.array(Question) }),
    reads: ['questions'],
  },
  askLines: {
    method: 'POST',
    path: '/books/:booksId/questions',
    access: 'bookkeeper',
    params: BooksParams,
    body: AskLines,
    answer: LinesDone,
    touches: ['question'],
  },
  answerQuestion: {
    method: 'POST',
    path: '/books/:booksId/questions/:questionId/answers',
    access: 'client',
    params: BooksParams.extend({ questionId: QuestionId }),
    body: AnswerQuestion,
    answer: StepDone,
    touches: ['question'],
  },
  lineThread: {
    method: 'GET',
    path: '/books/:booksId/lines/:lineId/thread',
    access: 'reviewer',
    params: LineParams,
    answer: LineThread,
    reads: ['questions', 'attachments'],
  },
  addAttachment: {
    method: 'POST',
    path: '/books/:booksId/lines/:lineId/attachments',
    access: 'client',
    params: LineParams,
    query: z.object({ fileName: text(255).min(1) }),
    takesFile: true,
    answer: z.object({ id: Id }),
    touches: ['attachment'],
  },
  attachment: {
    method: 'GET',
    path: '/books/:booksId/attachments/:attachmentId',
    access: 'client',
    params: BooksParams.extend({ attachmentId: Id }),
    answer: null,
    reads: [],
  },
});
