import { sql } from 'drizzle-orm';
import type { Tx } from '../db/database.ts';

/** So often a job is tried before it is given up. */
const MOST_ATTEMPTS = 3;

/**
 * Puts work on books into the queue, in the caller's transaction. The jobs of one set of books are done one
 * after the other.
 *
 * @param task its name in the worker's list
 */
export async function queueJob(
  tx: Tx,
  task: 'keepBatch' | 'fetchFeed' | 'renewProposals',
  job: { readonly booksId: string },
): Promise<void> {
  await tx.execute(
    sql`select graphile_worker.add_job(${task}, ${JSON.stringify(job)}::json,
          queue_name := ${`books-${job.booksId}`}, max_attempts := ${MOST_ATTEMPTS})`,
  );
}
