import { sql } from 'drizzle-orm';
import type { Tx } from './database.ts';

/** Fewer changed rows than this don't mislead the planner. */
const MANY = 1_000;

/**
 * Has the planner look anew at the tables that are not much larger than what was inserted in this transaction, so that
 * what follows is not planned for the tables as they were.
 */
export async function refreshStatistics(tx: Tx, changedRows: number): Promise<void> {
  if (changedRows >= MANY) await tx.execute(sql`select refresh_statistics(${changedRows})`);
}

/** Has the planner look at all tables anew. */
export async function refreshAllStatistics(on: Pick<Tx, 'execute'>): Promise<void> {
  await on.execute(sql`select refresh_statistics(1e15::bigint)`);
}
