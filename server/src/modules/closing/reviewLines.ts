import type { ReviewLines, ReviewSample } from '@zubrell/contract/closing';
import { SampledLine } from '@zubrell/contract/closing';
import type { StepDone } from '@zubrell/contract/common';
import { lastDayOf } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { linesSaid, monthSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { IdRow } from '../../db/rows.ts';
import { bookedLines } from '../statements/accountRows.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';

/** So many of the largest lines of a month are in its sample … */
const LARGEST = 10;
/** … and so many of the others, chosen at random, but always the same. */
const RANDOM = 15;

const SampleRow = SampledLine.omit({ payeeId: true, accountIds: true });
const CountRow = z.object({ count: z.int() });

/** The lines of a month that a reviewer looks at: the largest, and some of the others. */
export async function reviewSample(tx: Tx, booksId: BooksId, month: string): Promise<ReviewSample> {
  const decided = sql`
    from lines l
    join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
    where l.books_id = ${booksId} and l.is_here
      and l.date between ${`${month}-01`} and ${lastDayOf(month)}`;
  const [all] = await rowsOf(tx, CountRow, sql`select count(*)::int as count ${decided}`);
  const rows = await rowsOf(
    tx,
    SampleRow,
    sql`with ranked as (
          select l.id, l.date, l.description as text, l.amount,
            row_number() over (order by abs(l.amount) desc, l.id) as size,
            row_number() over (order by md5(l.id::text)) as place
          ${decided}),
        chosen as (
          select *, 'size' as chosen from ranked where size <= ${LARGEST}
          union all
          (select *, 'random' from ranked where size > ${LARGEST} order by place limit ${RANDOM}))
        select c.id, c.date, c.text, c.amount, c.chosen, u.name as "reviewedBy"
        from chosen c
        left join line_reviews r on r.books_id = ${booksId} and r.line_id = c.id
        left join users u on u.id = r.user_id
        order by c.chosen desc, c.size`,
  );
  const booked = await bookedLines(
    tx,
    booksId,
    rows.map(({ id }) => id ?? ''),
  );
  return {
    lineCount: all?.count ?? 0,
    lines: rows.map((row) => {
      const { payeeId = null, accountIds = [] } = booked.get(row.id ?? '') ?? {};
      return { ...row, payeeId, accountIds };
    }),
  };
}

/** Notes that a reviewer has looked at lines, as one step. @throws {ZubrellError} LINE_UNKNOWN */
export async function reviewLines(
  command: BooksCommand,
  month: string,
  { lineIds }: ReviewLines,
): Promise<StepDone> {
  const { tx, booksId, actor, clock } = command;
  const lines = await rowsOf(
    tx,
    IdRow,
    sql`select id from lines where books_id = ${booksId} and is_here
          and id = any(${sql.param(lineIds)}::uuid[])`,
  );
  if (lines.length < new Set(lineIds).size) fail('LINE_UNKNOWN');
  const ids = lines.map(({ id }) => id);
  const standing = await command.things.lineReview.standing(command, ids);
  const fresh = ids.filter((id) => !standing.get(id));
  const at = clock.now().toISOString();
  const turns = fresh.map((thingId) => ({
    thingId,
    before: null,
    after: { userId: actor.userId, at },
  }));
  await command.things.lineReview.put(command, turns);
  const now = await command.things.lineReview.standing(command, fresh);
  return recordDone(command, {
    kind: 'reviewLines',
    words: say`Reviewed ${linesSaid(fresh.length)} of ${monthSaid(month)}`,
    items: fresh.map(
      (thingId): StepItem => ({
        thing: 'lineReview',
        thingId,
        before: null,
        after: now.get(thingId) ?? null,
      }),
    ),
  });
}
