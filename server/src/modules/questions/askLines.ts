import { randomUUID } from 'node:crypto';
import type { Role } from '@zubrell/contract/books';
import type { StepDone } from '@zubrell/contract/common';
import type { LinesDone } from '@zubrell/contract/desk';
import type { AnswerQuestion, AskLines } from '@zubrell/contract/questions';
import { fail } from '@zubrell/core/errors';
import type { BooksId, QuestionId } from '@zubrell/core/ids';
import { linesSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { IdRow } from '../../db/rows.ts';
import { answers, questions } from '../../db/schema/questions.ts';
import { isSameText } from '../../db/textSearch.ts';
import { needs } from '../books/needsOf.ts';
import { booksCurrency } from '../books/queries.ts';
import { targetLines } from '../lines/targetLines.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { plainWords, recordStep } from '../steps/recordStep.ts';

/** Asks somebody about open lines, as one step: they wait in Asked until there is an answer. */
export async function askLines(
  command: BooksCommand,
  { target, askedOf, words: question, seenStep }: AskLines,
): Promise<LinesDone> {
  const { tx, clock, booksId, actor, step } = command;
  const currency = await booksCurrency(tx, booksId);
  const { lines, leftOut } = await targetLines({ tx, booksId }, currency, target, seenStep);
  if (lines.length === 0) {
    return { step: null, words: 'Nothing asked', done: [], leftOut: [...leftOut] };
  }
  const id = randomUUID();
  await tx.insert(questions).values({
    booksId,
    id,
    askedOf,
    askedUserId: await memberNamed(tx, booksId, askedOf),
    words: question,
    askedBy: actor.userId,
    askedAt: clock.now(),
    state: 'open',
    step,
  });
  await bulkInsert(
    tx,
    'question_lines',
    { books_id: 'uuid', question_id: 'uuid', line_id: 'uuid' },
    lines.map((line) => ({ books_id: booksId, question_id: id, line_id: line.id })),
  );
  await markLines(command, id);
  const words = say`Asked ${askedOf} about ${linesSaid(lines.length)}`;
  await recordStep(command, {
    kind: 'ask',
    words,
    items: [
      { thing: 'question', thingId: id, before: { state: 'withdrawn' }, after: { state: 'open' } },
    ],
    needs: needs(
      'lineHere',
      lines.map((line) => line.id),
    ),
  });
  return {
    step,
    words: plainWords(words),
    done: lines.map((line) => line.id),
    leftOut: [...leftOut],
  };
}

/** The member of the books with this name; null where there is none or there are several. */
async function memberNamed(tx: Tx, booksId: BooksId, name: string): Promise<string | null> {
  const found = await rowsOf(
    tx,
    IdRow,
    sql`select u.id from memberships m join users u on u.id = m.user_id
        where m.books_id = ${booksId} and ${isSameText(sql`u.name`, sql`${name}::text`)}`,
  );
  return found.length === 1 ? (found[0]?.id ?? null) : null;
}

const QuestionRow = z.object({
  state: z.string(),
  askedOf: z.string(),
  askedUserId: z.string().nullable(),
});

/**
 * Writes down an answer. The lines go back to Check with it.
 *
 * @param role of the actor in the books: bookkeepers also write down what others answered
 * @throws {ZubrellError} QUESTION_UNKNOWN, ROLE_TOO_LOW
 */
export async function answerQuestion(
  command: BooksCommand,
  questionId: QuestionId,
  { words: answer }: AnswerQuestion,
  role: Role | null,
): Promise<StepDone> {
  const { tx, clock, booksId, actor, step } = command;
  const [question] = await rowsOf(
    tx,
    QuestionRow,
    sql`select state, asked_of as "askedOf", asked_user_id as "askedUserId" from questions
        where books_id = ${booksId} and id = ${questionId}`,
  );
  if (!question || question.state === 'withdrawn') fail('QUESTION_UNKNOWN');
  const isOwn = question.askedUserId === actor.userId;
  // Clients know of no questions but their own; what others said is written down by who keeps the books.
  if (!isOwn && role === 'client') fail('QUESTION_UNKNOWN');
  if (!isOwn && role === 'reviewer') fail('ROLE_TOO_LOW', { role });
  await tx.insert(answers).values({
    booksId,
    id: randomUUID(),
    questionId,
    words: answer,
    writtenBy: actor.userId,
    at: clock.now(),
  });
  await setQuestionState(command, questionId, 'answered');
  const words = isOwn ? say`Answered a question` : say`Recorded the answer of ${question.askedOf}`;
  await recordStep(command, {
    kind: 'answer',
    words,
    items: [
      {
        thing: 'question',
        thingId: questionId,
        before: { state: question.state },
        after: { state: 'answered' },
      },
    ],
  });
  return { step, words: plainWords(words) };
}

/** Puts a question into a state, and its lines where that leaves them. */
export async function setQuestionState(
  command: BooksCommand,
  questionId: QuestionId,
  state: string,
): Promise<void> {
  const { tx, booksId } = command;
  await tx.execute(
    sql`update questions set state = ${state} where books_id = ${booksId} and id = ${questionId}`,
  );
  await markLines(command, questionId);
}

/** Notes at the lines of a question whether any question about them is open or answered. */
async function markLines(
  { tx, booksId, step }: BooksCommand,
  questionId: QuestionId,
): Promise<void> {
  await tx.execute(
    sql`update lines l set last_step = ${step}, asked = (
          select case when bool_or(q.state = 'open') then 'open'
            when bool_or(q.state = 'answered') then 'answered' end
          from question_lines ql
          join questions q on q.books_id = ql.books_id and q.id = ql.question_id
          where ql.books_id = l.books_id and ql.line_id = l.id)
        where l.books_id = ${booksId} and l.id in (
          select line_id from question_lines
          where books_id = ${booksId} and question_id = ${questionId})`,
  );
}
