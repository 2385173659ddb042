import type { Role } from '@zubrell/contract/books';
import { questionEndpoints } from '@zubrell/contract/endpoints/questions';
import { fail } from '@zubrell/core/errors';
import type { LineId, UserId } from '@zubrell/core/ids';
import type { BooksTx } from '../../db/database.ts';
import { answerQuestion, askLines } from '../../modules/questions/askLines.ts';
import { attachmentOf, LARGEST_ATTACHMENT } from '../../modules/questions/attachments.ts';
import {
  lineThread,
  openQuestions,
  questionsToMe,
  wasAskedAbout,
} from '../../modules/questions/queries.ts';
import { suspendLines } from '../../modules/questions/suspendLines.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { actorOf, query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';
import { takeAttachment } from '../takeAttachment.ts';
import type { Uploads } from '../uploads.ts';

/** Questions about lines, their answers, and the attachments kept with lines. */
export function questionRoutes(api: Api, services: Services, uploads: Uploads): void {
  serve(api, questionEndpoints.questionsToMe, (request) =>
    query(services, request, (tx, booksId) => questionsToMe(tx, booksId, actorOf(request).userId)),
  );

  serve(api, questionEndpoints.suspendLines, (request) =>
    runCommand(services, request, (command) => suspendLines(command, request.body)),
  );

  serve(api, questionEndpoints.questions, (request) =>
    query(services, request, async (tx, booksId) => ({
      questions: await openQuestions(tx, booksId),
    })),
  );

  serve(api, questionEndpoints.askLines, (request) =>
    runCommand(services, request, (command) => askLines(command, request.body)),
  );

  serve(api, questionEndpoints.answerQuestion, (request) =>
    runCommand(services, request, (command) =>
      answerQuestion(command, request.params.questionId, request.body, request.role),
    ),
  );

  serve(api, questionEndpoints.lineThread, (request) =>
    query(services, request, (tx, booksId) => lineThread(tx, booksId, request.params.lineId)),
  );

  serve(
    api,
    questionEndpoints.addAttachment,
    (request) =>
      takeAttachment({ services, uploads }, request, { lineId: request.params.lineId }, (books) =>
        checkMayAddAttachment(books, actorOf(request).userId, request.params.lineId, request.role),
      ),
    { bodyLimit: LARGEST_ATTACHMENT },
  );

  serve(api, questionEndpoints.attachment, async (request, reply) => {
    const attachment = await query(services, request, async (tx, booksId) => {
      const found = await attachmentOf(tx, booksId, request.params.attachmentId);
      const { userId } = actorOf(request);
      const isTheirs =
        request.role !== 'client' ||
        (found.lineId !== null && (await wasAskedAbout(tx, booksId, userId, found.lineId)));
      return isTheirs ? found : fail('ATTACHMENT_UNKNOWN');
    });
    const name = encodeURIComponent(attachment.fileName);
    return reply
      .type(attachment.type)
      .header('content-disposition', `inline; filename*=UTF-8''${name}`)
      .header('content-security-policy', "default-src 'none'; sandbox")
      .send(attachment.bytes);
  });
}

/** Attachments are added by who does the books, and by who was asked about the line. */
async function checkMayAddAttachment(
  { tx, booksId }: BooksTx,
  userId: UserId,
  lineId: LineId,
  role: Role | null,
): Promise<void> {
  if (role === 'owner' || role === 'bookkeeper') return;
  if (!(await wasAskedAbout(tx, booksId, userId, lineId)))
    fail('ROLE_TOO_LOW', { role: role ?? '' });
}
