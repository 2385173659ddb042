import { type SQL, sql } from 'drizzle-orm';

/**
 * How often an entry counts at the end of a day: once, or not at all.
 *
 * @param entry the row of `entries`
 */
export function timesCounted(entry: SQL, day: string): SQL {
  return sql`((case when ${entry}.is_counted and ${entry}.date <= ${day} then 1 else 0 end) + coalesce((
    select sum(turn.sign) from late_turns turn
    where turn.books_id = ${entry}.books_id and turn.entry_id = ${entry}.id and turn.date <= ${day}), 0))`;
}

/**
 * On which day an allocation `a` counts: a payment from the day of its entry, documents set against each other from
 * the later one's.
 */
export const settledOn: SQL = sql`coalesce(
  (select max(e.date) from decision_legs x
    join legs g on g.books_id = x.books_id and g.id = x.leg_id
    join entries e on e.books_id = g.books_id and e.id = g.entry_id
    where x.books_id = a.books_id and x.decision_id = a.decision_id),
  (select max(o.date) from allocations b
    join documents o on o.books_id = b.books_id and o.id = b.document_id
    where b.books_id = a.books_id and b.decision_id = a.decision_id))`;
