import type { Role } from '@zubrell/contract/books';
import { BooksParams, Id, StepDone, text } from '@zubrell/contract/common';
import { LinesDone } from '@zubrell/contract/desk';
import {
  AnswerQuestion,
  AskLines,
  LineThread,
  Question,
  QuestionsToMe,
  SuspendLines,
} from '@zubrell/contract/questions';
import { fail } from '@zubrell/core/errors';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import type { Tx } from '../../db/database.ts';
import { actorOf, query, runCommand } from '../../http/command.ts';
import type { Uploads } from '../../http/uploads.ts';
import type { Services } from '../../services.ts';
import { answerQuestion, askLines } from './askLines.ts';
import { addAttachment, attachmentOf, LARGEST_PAPER } from './attachments.ts';
import { lineThread, openQuestions, questionsToMe, wasAskedAbout } from './queries.ts';
import { suspendLines } from './suspendLines.ts';

const LineParams = BooksParams.extend({ lineId: Id });

/** Questions about lines, their answers, and the papers kept with lines. */
export function questionRoutes(api: Api, services: Services, uploads: Uploads): void {
  api.get(
    '/api/books/:booksId/questions-to-me',
    {
      config: { access: 'client' },
      schema: { params: BooksParams, response: { 200: QuestionsToMe } },
    },
    (request) =>
      query(services, request, (tx, booksId) =>
        questionsToMe(tx, booksId, actorOf(request).userId),
      ),
  );

  api.post(
    '/api/books/:booksId/lines/suspend',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: SuspendLines, response: { 200: LinesDone } },
    },
    (request) => runCommand(services, request, (command) => suspendLines(command, request.body)),
  );

  api.get(
    '/api/books/:booksId/questions',
    {
      config: { access: 'reviewer' },
      schema: {
        params: BooksParams,
        response: { 200: z.object({ questions: z.array(Question) }) },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => ({
        questions: await openQuestions(tx, booksId),
      })),
  );

  api.post(
    '/api/books/:booksId/questions',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: AskLines, response: { 200: LinesDone } },
    },
    (request) => runCommand(services, request, (command) => askLines(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/questions/:questionId/answers',
    {
      config: { access: 'client' },
      schema: {
        params: BooksParams.extend({ questionId: Id }),
        body: AnswerQuestion,
        response: { 200: StepDone },
      },
    },
    (request) =>
      runCommand(services, request, (command) =>
        answerQuestion(command, request.params.questionId, request.body, request.role),
      ),
  );

  api.get(
    '/api/books/:booksId/lines/:lineId/thread',
    {
      config: { access: 'reviewer' },
      schema: { params: LineParams, response: { 200: LineThread } },
    },
    (request) =>
      query(services, request, (tx, booksId) => lineThread(tx, booksId, request.params.lineId)),
  );

  api.post(
    '/api/books/:booksId/lines/:lineId/attachments',
    {
      config: { access: 'client' },
      bodyLimit: LARGEST_PAPER,
      schema: {
        params: LineParams,
        querystring: z.object({ fileName: text(255).min(1) }),
        response: { 200: z.object({ id: Id }) },
      },
    },
    (request) =>
      uploads.take(request, LARGEST_PAPER, (file) =>
        query(services, request, async (tx, booksId) => {
          const actor = actorOf(request);
          const { lineId } = request.params;
          await checkMayAddPaper(tx, booksId, actor.userId, lineId, request.role);
          const { fileName } = request.query;
          return { id: await addAttachment(tx, services, booksId, actor, lineId, fileName, file) };
        }),
      ),
  );

  api.get(
    '/api/books/:booksId/attachments/:attachmentId',
    {
      config: { access: 'client' },
      schema: { params: BooksParams.extend({ attachmentId: Id }) },
    },
    async (request, reply) => {
      const paper = await query(services, request, async (tx, booksId) => {
        const found = await attachmentOf(tx, booksId, request.params.attachmentId);
        const { userId } = actorOf(request);
        const isTheirs =
          request.role !== 'client' || (await wasAskedAbout(tx, booksId, userId, found.lineId));
        return isTheirs ? found : fail('ATTACHMENT_UNKNOWN');
      });
      const name = encodeURIComponent(paper.fileName);
      return reply
        .type(paper.type)
        .header('content-disposition', `inline; filename*=UTF-8''${name}`)
        .header('content-security-policy', "default-src 'none'; sandbox")
        .send(paper.bytes);
    },
  );
}

/** Papers are added by who does the books, and by who was asked about the line. */
async function checkMayAddPaper(
  tx: Tx,
  booksId: string,
  userId: string,
  lineId: string,
  role: Role | null,
): Promise<void> {
  if (role === 'owner' || role === 'bookkeeper') return;
  if (!(await wasAskedAbout(tx, booksId, userId, lineId)))
    fail('ROLE_TOO_LOW', { role: role ?? '' });
}
