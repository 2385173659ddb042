import { SinceVisit } from '@zubrell/contract/board';
import { fail } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import type { Acting } from '../steps/booksCommand.ts';

/** Whoever was away for so many minutes comes back to a new visit. */
const AWAY = 60;
/** At a first visit, so many days back are told of. */
const FIRST_DAYS = 7;

const VisitRow = z.object({ at: z.string().nullable(), step: z.number() });

const PersonRow = SinceVisit.shape.people.element;

const CountsRow = z.object({ lines: z.number(), batches: z.number(), answers: z.number() });

/**
 * Notes that somebody is in the books now, and tells what others did since their visit before. A visit lasts until
 * they were away for an hour.
 */
export async function beginVisit({ tx, booksId, clock, actor }: Acting): Promise<SinceVisit> {
  const { userId } = actor;
  const now = clock.now().toISOString();
  const isBack = sql`(m.seen_at is not null and abs(extract(epoch from ${now}::timestamptz - m.seen_at)) > ${60 * AWAY})`;
  const [visit] = await rowsOf(
    tx,
    VisitRow,
    sql`update memberships m set
          left_at = case when ${isBack} then m.seen_at else m.left_at end,
          left_step = case when ${isBack} then m.seen_step else m.left_step end,
          seen_at = ${now}, seen_step = b.last_step
        from books b
        where b.id = m.books_id and m.books_id = ${booksId} and m.user_id = ${userId}
        returning to_json(m.left_at) #>> '{}' as at, coalesce(m.left_step, (
          select coalesce(max(s.no), 0) from steps s
          where s.books_id = m.books_id
            and s.at < ${now}::timestamptz - make_interval(days => ${FIRST_DAYS}))) as step`,
  );
  if (!visit) fail('BOOKS_UNKNOWN');
  const people = await rowsOf(
    tx,
    PersonRow,
    sql`select u.id as "userId", u.name, count(distinct s.no)::int as steps,
          count(distinct dl.line_id)::int as lines,
          (array_agg(s.words order by s.no desc))[1] as last
        from steps s
        join users u on u.id = s.user_id
        left join decisions d on d.books_id = s.books_id and d.step = s.no
        left join decision_lines dl on dl.books_id = d.books_id and dl.decision_id = d.id
        where s.books_id = ${booksId} and s.no > ${visit.step} and s.user_id <> ${userId}
        group by u.id, u.name order by steps desc, u.name`,
  );
  const [counts] = await rowsOf(
    tx,
    CountsRow,
    sql`with since as (
          select coalesce(${visit.at}::timestamptz,
            ${now}::timestamptz - make_interval(days => ${FIRST_DAYS})) as at),
        came as (
          select b.new_count from batches b, since
          where b.books_id = ${booksId} and b.status = 'kept' and b.created_at > since.at
            and b.new_count > 0 and (b.feed_id is not null or b.created_by <> ${userId}))
        select (select coalesce(sum(new_count), 0) from came)::int as lines,
          (select count(*) from came)::int as batches,
          (select count(*) from answers a, since
            where a.books_id = ${booksId} and a.at > since.at and a.written_by <> ${userId})::int as answers`,
  );
  const { lines = 0, batches = 0, answers = 0 } = counts ?? {};
  return { at: visit.at, came: { lines, batches }, people, answers };
}
