import { Steps, type StepsWanted } from '@zubrell/contract/desk';
import { StepEvent } from '@zubrell/contract/events';
import type { BooksId } from '@zubrell/core/ids';
import { stepKindsByGroup } from '@zubrell/core/steps/stepKinds';
import { sql } from 'drizzle-orm';
import { cursorOf, placeOf } from '../../db/cursor.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { hasText } from '../../db/textSearch.ts';
import { isUndoneStep, saidOfStep } from './stepState.ts';

const PAGE = 100;

const StepRow = Steps.shape.items.element;

const PeopleRow = Steps.shape.people.element;

/** The history of the books, the newest step first. */
export async function stepsOf(
  tx: Tx,
  booksId: BooksId,
  { group, userId, search }: StepsWanted,
  cursor: string | undefined,
): Promise<Steps> {
  const place = placeOf(cursor, 'number');
  const items = await rowsOf(
    tx,
    StepRow,
    sql`select s.no, to_json(s.at) #>> '{}' as at, u.name as who, u.id as "userId", s.kind,
          s.words, ${saidOfStep} as said, coalesce(s.undoes, s.redoes) as undoes, ${isUndoneStep} as "isUndone",
          (select count(*) from step_items i
            where i.books_id = s.books_id and i.step_no = s.no)::int as "itemCount",
          exists (select from step_items i where i.books_id = s.books_id and i.step_no = s.no
            and i.thing = 'line') as "hasLines"
        from steps s join users u on u.id = s.user_id
        where s.books_id = ${booksId}
          and ${place === null ? sql`true` : sql`s.no < ${Number(place[0])}`}
          and ${group === undefined ? sql`true` : sql`s.kind = any(${sql.param([...stepKindsByGroup[group]])}::text[])`}
          and ${userId === undefined ? sql`true` : sql`s.user_id = ${userId}`}
          and ${search === undefined ? sql`true` : hasText(sql`s.words`, search)}
        order by s.no desc limit ${PAGE}`,
  );
  const last = items.at(-1);
  const people = await rowsOf(
    tx,
    PeopleRow,
    sql`select u.id, u.name from users u where exists (
          select from steps s where s.books_id = ${booksId} and s.user_id = u.id)
        order by u.name`,
  );
  return { items, people, next: last && items.length === PAGE ? cursorOf(last.no) : null };
}

const MissedRow = StepEvent.omit({ by: true });

/** What browsers missed that know of no step after one, oldest first. */
export async function stepsAfter(tx: Tx, booksId: BooksId, no: number): Promise<StepEvent[]> {
  const rows = await rowsOf(
    tx,
    MissedRow,
    sql`select s.no as step, array(
            select distinct i.thing from step_items i
            where i.books_id = s.books_id and i.step_no = s.no) as touched
        from steps s where s.books_id = ${booksId} and s.no > ${no} order by s.no limit 1000`,
  );
  return rows.map((row) => ({ ...row, by: null }));
}
