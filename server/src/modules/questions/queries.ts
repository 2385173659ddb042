import {
  LineThread,
  Question,
  type QuestionsToMe,
  QuestionToMe,
} from '@zubrell/contract/questions';
import { fail } from '@zubrell/core/errors';
import type { BooksId, LineId, QuestionId, UserId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';

function questionsWhere(tx: Tx, condition: SQL): Promise<Question[]> {
  return rowsOf(
    tx,
    Question,
    sql`select q.id, q.asked_of as "askedOf", q.words, u.name as "askedBy",
          to_json(q.asked_at) #>> '{}' as "askedAt", q.state,
          (select count(*)::int from question_lines ql
            where ql.books_id = q.books_id and ql.question_id = q.id) as "lineCount",
          coalesce((select json_agg(json_build_object('id', a.id, 'words', a.words, 'who', w.name,
              'at', to_json(a.at) #>> '{}') order by a.at)
            from answers a join users w on w.id = a.written_by
            where a.books_id = q.books_id and a.question_id = q.id), '[]') as answers
        from questions q join users u on u.id = q.asked_by
        where ${condition} order by q.asked_at`,
  );
}

const AttachmentRow = LineThread.shape.attachments.element;

/** The questions and attachments of a line. */
export async function lineThread(tx: Tx, booksId: BooksId, lineId: LineId): Promise<LineThread> {
  const questions = await questionsWhere(
    tx,
    sql`q.books_id = ${booksId} and q.state <> 'withdrawn' and exists (
          select from question_lines ql where ql.books_id = q.books_id
            and ql.question_id = q.id and ql.line_id = ${lineId})`,
  );
  const attachments = await rowsOf(
    tx,
    AttachmentRow,
    sql`select a.id, a.file_name as "fileName", a.type, a.size, u.name as who,
          to_json(a.at) #>> '{}' as at
        from attachments a join users u on u.id = a.added_by
        where a.books_id = ${booksId} and a.line_id = ${lineId} order by a.at`,
  );
  return { questions, attachments };
}

/** The questions of books that wait for an answer, or whose answer waits, the oldest first. */
export function openQuestions(tx: Tx, booksId: BooksId): Promise<Question[]> {
  return questionsWhere(
    tx,
    sql`q.books_id = ${booksId} and q.state <> 'withdrawn' and ${isUnsettled}`,
  );
}

/** Whether question `q` is about a line that is open, or waits on the suspense account. */
const isUnsettled = sql`exists (
  select from question_lines ql
  join lines l on l.books_id = ql.books_id and l.id = ql.line_id and l.is_here
  where ql.books_id = q.books_id and ql.question_id = q.id and not exists (
    select from decision_lines dl
    join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
    left join accounts a on a.books_id = d.books_id
      and a.id = (d.coding #>> '{parts,0,accountId}')::uuid
    where dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
      and a.role is distinct from 'suspense'))`;

const BookRow = z.object({ name: z.string(), currency: z.string() });

const LineRow = QuestionToMe.shape.lines.element.extend({ questionId: idRow<QuestionId>() });

/** What a user was asked about these books and is not settled, with the lines it is about. */
export async function questionsToMe(
  tx: Tx,
  booksId: BooksId,
  userId: UserId,
): Promise<QuestionsToMe> {
  const [books] = await rowsOf(
    tx,
    BookRow,
    sql`select name, currency from books where id = ${booksId}`,
  );
  if (!books) fail('BOOKS_UNKNOWN');
  const questions = await questionsWhere(
    tx,
    sql`q.books_id = ${booksId} and q.state <> 'withdrawn' and q.asked_user_id = ${userId}
        and ${isUnsettled}`,
  );
  const lines = await rowsOf(
    tx,
    LineRow,
    sql`select ql.question_id as "questionId", l.id, l.date, l.amount,
          coalesce(b.currency, ${books.currency}) as currency, l.description, l.reference,
          coalesce((select json_agg(json_build_object('id', a.id, 'fileName', a.file_name)
              order by a.at)
            from attachments a where a.books_id = l.books_id and a.line_id = l.id), '[]') as attachments
        from question_lines ql
        join lines l on l.books_id = ql.books_id and l.id = ql.line_id and l.is_here
        join bank_accounts b on b.books_id = l.books_id and b.id = l.bank_account_id
        where ql.books_id = ${booksId}
          and ql.question_id = any(${sql.param(questions.map(({ id }) => id))}::uuid[])
        order by l.date, l.id`,
  );
  return {
    booksName: books.name,
    currency: books.currency,
    questions: questions.map((question) => ({
      ...question,
      lines: lines.flatMap(({ questionId, ...line }) => (questionId === question.id ? line : [])),
    })),
  };
}

/** Whether a user was asked about a line. */
export async function wasAskedAbout(
  tx: Tx,
  booksId: BooksId,
  userId: UserId,
  lineId: LineId,
): Promise<boolean> {
  const rows = await countRows(
    tx,
    sql`select from question_lines ql
        join questions q on q.books_id = ql.books_id and q.id = ql.question_id
        where ql.books_id = ${booksId} and ql.line_id = ${lineId} and q.state <> 'withdrawn'
          and q.asked_user_id = ${userId} limit 1`,
  );
  return rows > 0;
}
