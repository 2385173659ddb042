import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';

/** A line and the decisions it goes from and to; null is open. */
export interface LineChange {
  readonly lineId: string;
  readonly from: string | null;
  readonly to: string | null;
}

/**
 * Moves lines between decisions already made: those left are no longer live and their entries are
 * voided, those gone to come back to life with the same entries.
 *
 * @returns ids of the lines that no longer stand as `from` says; nothing is changed then
 */
export async function setLineDecisions(
  tx: Tx,
  booksId: string,
  changes: readonly LineChange[],
  step: number,
): Promise<string[]> {
  const lineIds = changes.map((change) => change.lineId);
  const current = await rowsOf<{ id: string; decisionId: string | null }>(
    tx,
    sql`select l.id, dl.decision_id as "decisionId"
        from lines l
        left join decision_lines dl
          on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
        where l.books_id = ${booksId} and l.id = any(${sql.param(lineIds)}::uuid[])
        for update of l`,
  );
  const standing = new Map(current.map((row) => [row.id, row.decisionId]));
  const moved = changes.filter((change) => standing.get(change.lineId) !== change.from);
  if (moved.length > 0) return moved.map((change) => change.lineId);
  await setLive(tx, booksId, idsOf(changes, 'from'), false);
  await setLive(tx, booksId, idsOf(changes, 'to'), true);
  await tx.execute(
    sql`update lines set last_step = ${step}
        where books_id = ${booksId} and id = any(${sql.param(lineIds)}::uuid[])`,
  );
  return [];
}

function idsOf(changes: readonly LineChange[], side: 'from' | 'to'): string[] {
  return changes.flatMap((change) => change[side] ?? []);
}

async function setLive(tx: Tx, booksId: string, decisionIds: string[], isLive: boolean) {
  if (decisionIds.length === 0) return;
  const these = sql`books_id = ${booksId} and decision_id = any(${sql.param(decisionIds)}::uuid[])`;
  await tx.execute(sql`update decision_lines set is_live = ${isLive} where ${these}`);
  await tx.execute(sql`update decision_legs set is_live = ${isLive} where ${these}`);
  await tx.execute(
    sql`update entries set is_void = ${!isLive}
        where books_id = ${booksId} and id in (
          select entry_id from legs where books_id = ${booksId} and id in (
            select leg_id from decision_legs where ${these}))`,
  );
}
