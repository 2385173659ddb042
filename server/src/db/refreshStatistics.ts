import { sql } from 'drizzle-orm';
import type { Tx } from './database.ts';

/** Fewer changed rows than this don't mislead the planner. */
export const MANY = 200;

/** The tables that grow with each line. */
const GROWING = [
  'lines',
  'sightings',
  'proposals',
  'decisions',
  'decision_lines',
  'entries',
  'legs',
  'decision_legs',
];

/**
 * Has the planner look anew at a table that is not much larger than what was inserted in this transaction, so that what
 * follows is not planned for the table as it was. Bulk inserts do it by themselves.
 */
export async function refreshStatistics(
  tx: Tx,
  tables: readonly string[],
  changedRows: number,
): Promise<void> {
  if (changedRows < MANY) return;
  await tx.execute(
    sql`select refresh_statistics(${sql.param(tables)}::text[], ${changedRows}::bigint)`,
  );
}

/** So many rows are looked at in no time. */
export const SMALL = 20_000;

/** Has the planner look at tables anew, whatever it expects of them. */
export function lookAnew(on: Pick<Tx, 'execute'>, tables: readonly string[]): Promise<unknown> {
  return on.execute(sql`select refresh_statistics(${sql.param(tables)}::text[], 1e15::bigint)`);
}

/** Has the planner look at all tables anew that grow with each line. */
export function refreshAllStatistics(on: Pick<Tx, 'execute'>): Promise<unknown> {
  return lookAnew(on, GROWING);
}
