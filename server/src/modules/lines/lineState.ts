import { type SQL, sql } from 'drizzle-orm';

/** The live decision of line `l`, as `dl`, or no row. For use behind `from lines l`. */
export const joinLiveDecision: SQL = sql`
  left join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live`;

/** Whether line `l` is open: here and not decided. */
export const isOpenLine: SQL = sql`
  (l.is_here and not exists (
    select from decision_lines open_check
    where open_check.books_id = l.books_id and open_check.line_id = l.id and open_check.is_live))`;
