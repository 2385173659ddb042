import { DismissedNudges } from '@zubrell/contract/desk';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';

const DismissedRow = DismissedNudges.shape.dismissed.element;

/** What is asked about no more. */
export function dismissedNudges(
  tx: Tx,
  booksId: BooksId,
): Promise<readonly z.infer<typeof DismissedRow>[]> {
  return rowsOf(
    tx,
    DismissedRow,
    sql`select nudge, payee_id as "payeeId", stem from dismissals
        where books_id = ${booksId} and is_live`,
  );
}
