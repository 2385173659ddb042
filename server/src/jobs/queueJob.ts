import type { TaskName } from '@zubrell/contract/jobs';
import { sql } from 'drizzle-orm';
import type { Tx } from '../db/database.ts';

/** So often a job is tried before it is given up. */
const MOST_ATTEMPTS = 3;

/** What somebody waits for comes before what may be a little late. */
const PRIORITIES = { keepBatch: -1, fetchFeed: 0, renewProposals: 1 } as const satisfies Readonly<
  Record<TaskName, number>
>;

/** The queue of some books: their jobs are done one after the other. */
export function queueNameOf(booksId: string): string {
  return `books-${booksId}`;
}

/**
 * Puts work on books into the queue, in the caller's transaction. The jobs of one set of books are done one
 * after the other, a file that is to be kept before proposals that are to be renewed.
 */
export async function queueJob(
  tx: Tx,
  task: TaskName,
  job: { readonly booksId: string },
): Promise<void> {
  await tx.execute(
    sql`select graphile_worker.add_job(${task}, ${JSON.stringify(job)}::json,
          queue_name := ${queueNameOf(job.booksId)}, max_attempts := ${MOST_ATTEMPTS},
          priority := ${PRIORITIES[task]})`,
  );
}
