import type { BooksId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';

/** The live decision of line `l`, as `dl`, or no row. For use behind `from lines l`. */
export const joinLiveDecision: SQL = sql`
  left join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live`;

/** Whether line `l` may be a second copy of a line that is here. */
export const isTwice: SQL = sql`
  (l.twice_of is not null and exists (
    select from lines original
    where original.books_id = l.books_id and original.id = l.twice_of and original.is_here))`;

/** The lane of line `l`; null where it is not open. */
export const laneOfLine: SQL = sql`
  (select o.lane from open_lines o where o.books_id = l.books_id and o.line_id = l.id)`;

/** Whether line `l` is open and in a lane. */
export const isInLane = (lane: string): SQL => sql`
  exists (select from open_lines o
    where o.books_id = l.books_id and o.line_id = l.id and o.lane = ${lane})`;

/** The last day of the agreed statement that counts line `l`; null where none does. */
export const countedTo: SQL = sql`
  (select s.to_date from statement_parts part
    join statements s on s.books_id = part.books_id and s.id = part.statement_id
      and s.agreed_step = part.step
    where part.books_id = l.books_id and part.thing_id = l.id limit 1)`;

/** Whether line `l` is open: here and not decided. */
export const isOpenLine: SQL = sql`
  exists (select from open_lines o where o.books_id = l.books_id and o.line_id = l.id)`;

/** Whether line `l` is open and of one of these sizes, whatever the sign. Reads the open lines alone. */
export const isOpenOfSize = (sizes: readonly number[]): SQL => sql`
  exists (select from open_lines o where o.books_id = l.books_id and o.line_id = l.id
    and o.amount = any(${sql.param(sizes.flatMap((size) => [size, -size]))}::bigint[]))`;

const ofTies = (column: SQL, isLive: SQL) => sql`
  (select ${column} from decision_lines tie
    where tie.books_id = l.books_id and tie.line_id = l.id and ${isLive})`;

/**
 * The newest step that touched line `l`, its version: deciding it leaves the line itself as it is. No index has what the
 * maximum is taken of: else the planner may look for it among all ties of the books, line by line.
 */
export const lastStepOfLine: SQL = sql`greatest(l.last_step, ${ofTies(sql`tie.last_step`, sql`tie.is_live`)},
  ${ofTies(sql`max(tie.last_step + 0)`, sql`not tie.is_live`)})`;

/** The same, or the newest step that changed only what is learned of it. */
export const changedStepOfLine: SQL = sql`greatest(l.relearn_step, ${lastStepOfLine})`;

/** Whether a step after one touched line `l` or changed what is learned of it. Looks only these up. */
export const isChangedSince = (booksId: BooksId, step: number): SQL => sql`
  l.id = any(array(
    select changed.id from lines changed
    where changed.books_id = ${booksId} and greatest(changed.last_step, changed.relearn_step) > ${step}
    union all
    select tie.line_id from decision_lines tie
    where tie.books_id = ${booksId} and tie.last_step > ${step}))`;

/**
 * By what step line `l` was changed last, and who took it: what a line that was changed meanwhile is left out with. No
 * join, as the lines would be put together with their versions before they are found by anything else.
 */
export const lastChangeOfLine: SQL = sql`
  (select json_build_object('step', version.step, 'by', u.name, 'what', s.words)
    from (select ${lastStepOfLine} as step offset 0) version
    left join steps s on s.books_id = l.books_id and s.no = version.step
    left join users u on u.id = s.user_id) as "lastChange"`;
