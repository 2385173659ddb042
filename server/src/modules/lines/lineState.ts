import { type SQL, sql } from 'drizzle-orm';

/** The live decision of line `l`, as `dl`, or no row. For use behind `from lines l`. */
export const joinLiveDecision: SQL = sql`
  left join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live`;

/** Whether line `l` may be a second copy of a line that is here. */
export const isTwice: SQL = sql`
  (l.twice_of is not null and exists (
    select from lines original
    where original.books_id = l.books_id and original.id = l.twice_of and original.is_here))`;

/**
 * The lane of open line `l` beside its proposal `p`: a question keeps it in Asked, a doubt about the line
 * itself is a doubt, and so is an answer that nobody has acted on.
 */
export const laneOfLine: SQL = sql`
  (case when l.asked = 'open' then 'asked'
    when ${isTwice} or l.asked = 'answered' or l.held is not null then 'check' else coalesce(p.lane, 'blank') end)`;

/** The last day of the agreed statement that counts line `l`; null where none does. */
export const countedTo: SQL = sql`
  (select s.to_date from statement_parts part
    join statements s on s.books_id = part.books_id and s.id = part.statement_id
      and s.agreed_step = part.step
    where part.books_id = l.books_id and part.thing_id = l.id limit 1)`;

/** Whether line `l` is open: here and not decided. */
export const isOpenLine: SQL = sql`
  (l.is_here and not exists (
    select from decision_lines open_check
    where open_check.books_id = l.books_id and open_check.line_id = l.id and open_check.is_live))`;

/** Who changed line `l` last, and by what step: what a line that was changed meanwhile is left out with. */
export const lastChangeColumns: SQL = sql`
  l.last_step as "lastStep", changed_by.name as "changedBy", changed.words as "changedWhat"`;
export const joinLastChange: SQL = sql`
  left join steps changed on changed.books_id = l.books_id and changed.no = l.last_step
  left join users changed_by on changed_by.id = changed.user_id`;
