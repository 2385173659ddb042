import { sql } from 'drizzle-orm';
import type { Tx } from './database.ts';

/** Fewer changed rows than this don't mislead the planner. */
const MANY = 1_000;

/**
 * Has the planner look at the tables anew after many rows were inserted in this transaction, so that
 * what follows is not planned for the tables as they were.
 */
export async function refreshStatistics(tx: Tx, changedRows: number): Promise<void> {
  if (changedRows >= MANY) await tx.execute(sql`select refresh_statistics()`);
}
