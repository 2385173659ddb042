import type { BooksId, DecisionId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { Tx } from '../../db/database.ts';

/**
 * Stops rules from posting at once whose lines somebody takes back or changes: they hold them for a look from
 * now on.
 *
 * @param step the step that corrects them
 * @param decisionIds the decisions that no longer hold
 */
export async function stopCorrected(
  tx: Tx,
  booksId: BooksId,
  step: number,
  decisionIds: readonly DecisionId[],
): Promise<void> {
  if (decisionIds.length === 0) return;
  await tx.execute(
    sql`update rules r set stopped_step = ${step}
        where r.books_id = ${booksId} and r.body #>> '{after,kind}' = 'post'
          and exists (
            select from decisions d where d.books_id = r.books_id and d.rule_id = r.id
              and d.way = 'rule' and d.id = any(${sql.param(decisionIds)}::uuid[]))`,
  );
}
