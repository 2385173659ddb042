import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type { LinesDone } from '@zubrell/contract/desk';
import type { AnswerQuestion, AskLines } from '@zubrell/contract/questions';
import { fail } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { answers, questions } from '../../db/schema/questions.ts';
import type { Actor, Services } from '../../services.ts';
import { booksCurrency } from '../books/queries.ts';
import { countLines } from '../lines/postLines.ts';
import { targetLines } from '../lines/targetLines.ts';
import { recordStep, takeStepNumber } from '../steps/recordStep.ts';

/** Asks somebody about open lines, as one step: they wait in Asked until there is an answer. */
export async function askLines(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  { target, askedOf, words: question, seenStep }: AskLines,
): Promise<LinesDone> {
  const currency = await booksCurrency(tx, booksId);
  const { lines, leftOut } = await targetLines(tx, booksId, currency, target, seenStep);
  if (lines.length === 0) {
    return { step: null, words: 'Nothing asked', done: [], leftOut: [...leftOut] };
  }
  const step = await takeStepNumber(tx, booksId);
  const id = randomUUID();
  await tx.insert(questions).values({
    booksId,
    id,
    askedOf,
    askedUserId: await memberNamed(tx, booksId, askedOf),
    words: question,
    askedBy: actor.userId,
    askedAt: services.clock.now(),
    state: 'open',
    step,
  });
  await bulkInsert(
    tx,
    'question_lines',
    { books_id: 'uuid', question_id: 'uuid', line_id: 'uuid' },
    lines.map((line) => ({ books_id: booksId, question_id: id, line_id: line.id })),
  );
  await markLines(tx, booksId, id, step);
  const words = `Asked ${askedOf} about ${countLines(lines.length)}`;
  await recordStep(tx, services, booksId, actor, step, {
    kind: 'ask',
    words,
    items: [
      { thing: 'question', thingId: id, before: { state: 'withdrawn' }, after: { state: 'open' } },
      ...lines.map((line) => ({
        thing: 'asked' as const,
        thingId: line.id,
        before: null,
        after: null,
      })),
    ],
  });
  return { step, words, done: lines.map((line) => line.id), leftOut: [...leftOut] };
}

/** The member of the books with this name; null where there is none or there are several. */
async function memberNamed(tx: Tx, booksId: string, name: string): Promise<string | null> {
  const found = await rowsOf<{ id: string }>(
    tx,
    sql`select u.id from memberships m join users u on u.id = m.user_id
        where m.books_id = ${booksId} and lower(u.name) = lower(${name})`,
  );
  return found.length === 1 ? (found[0]?.id ?? null) : null;
}

/**
 * Writes down an answer. The lines go back to Check with it.
 *
 * @param isClient whether the actor may answer only what they were asked themselves
 * @throws {ZubrellError} QUESTION_UNKNOWN
 */
export async function answerQuestion(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  questionId: string,
  { words: answer }: AnswerQuestion,
  isClient: boolean,
): Promise<StepDone> {
  const [question] = await rowsOf<{ state: string; askedOf: string; askedUserId: string | null }>(
    tx,
    sql`select state, asked_of as "askedOf", asked_user_id as "askedUserId" from questions
        where books_id = ${booksId} and id = ${questionId}`,
  );
  if (!question || question.state === 'withdrawn') fail('QUESTION_UNKNOWN');
  if (isClient && question.askedUserId !== actor.userId) fail('QUESTION_UNKNOWN');
  await tx.insert(answers).values({
    booksId,
    id: randomUUID(),
    questionId,
    words: answer,
    writtenBy: actor.userId,
    at: services.clock.now(),
  });
  const step = await takeStepNumber(tx, booksId);
  await setQuestionState(tx, booksId, questionId, question.state, 'answered', step);
  const isOwn = question.askedUserId === actor.userId;
  const words = isOwn
    ? 'Answered a question'
    : `Wrote down the answer to what ${question.askedOf} was asked`;
  await recordStep(tx, services, booksId, actor, step, {
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
  return { step, words };
}

/** Moves a question between states, with its lines. @returns whether it stood as `from` says */
export async function setQuestionState(
  tx: Tx,
  booksId: string,
  questionId: string,
  from: string,
  to: string,
  step: number,
): Promise<boolean> {
  const rows = await rowsOf(
    tx,
    sql`update questions set state = ${to}
        where books_id = ${booksId} and id = ${questionId} and state = ${from} returning id`,
  );
  if (rows.length === 0) return false;
  await markLines(tx, booksId, questionId, step);
  return true;
}

/** Notes at the lines of a question whether any question about them is open or answered. */
async function markLines(tx: Tx, booksId: string, questionId: string, step: number): Promise<void> {
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
