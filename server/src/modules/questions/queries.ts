import type { LineThread, Question } from '@zubrell/contract/questions';
import { type SQL, sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';

function questionsWhere(tx: Tx, condition: SQL): Promise<Question[]> {
  return rowsOf<Question>(
    tx,
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

/** The questions and papers of a line. */
export async function lineThread(tx: Tx, booksId: string, lineId: string): Promise<LineThread> {
  const questions = await questionsWhere(
    tx,
    sql`q.books_id = ${booksId} and q.state <> 'withdrawn' and exists (
          select from question_lines ql where ql.books_id = q.books_id
            and ql.question_id = q.id and ql.line_id = ${lineId})`,
  );
  const attachments = await rowsOf<LineThread['attachments'][number]>(
    tx,
    sql`select a.id, a.file_name as "fileName", a.type, a.size, u.name as who,
          to_json(a.at) #>> '{}' as at
        from attachments a join users u on u.id = a.added_by
        where a.books_id = ${booksId} and a.line_id = ${lineId} order by a.at`,
  );
  return { questions, attachments };
}

/** The questions of books that wait for an answer, or whose answer waits, the oldest first. */
export function openQuestions(tx: Tx, booksId: string): Promise<Question[]> {
  return questionsWhere(
    tx,
    sql`q.books_id = ${booksId} and q.state <> 'withdrawn' and exists (
          select from question_lines ql
          join lines l on l.books_id = ql.books_id and l.id = ql.line_id and l.is_here
          where ql.books_id = q.books_id and ql.question_id = q.id and not exists (
            select from decision_lines dl where dl.books_id = l.books_id and dl.line_id = l.id
              and dl.is_live))`,
  );
}
