import type { TaskName } from '@zubrell/contract/jobs';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { Tx } from './database.ts';

/** So often a job is tried before it is given up. */
const MOST_ATTEMPTS = 3;

/**
 * What somebody waits for comes before what may be a little late. What is gathered is done as one job, which gets a
 * list of all that was asked for until it begins. What has a delay waits so many seconds for more of the same, beside
 * the other work of its books.
 */
const TASKS: Readonly<
  Record<
    TaskName,
    { readonly priority: number; readonly isGathered: boolean; readonly delay?: number }
  >
> = {
  keepBatch: { priority: -1, isGathered: false },
  fetchFeed: { priority: 0, isGathered: false },
  renewProposals: { priority: 1, isGathered: true },
  saveHabits: { priority: 2, isGathered: true },
  summariseBooks: { priority: 3, isGathered: true, delay: 2 },
};

/** The queue of some books: their jobs are done one after the other. */
export function queueNameOf(booksId: BooksId): string {
  return `books-${booksId}`;
}

/**
 * Puts work on books into the queue, in the caller's transaction. The jobs of one set of books are done one
 * after the other, a file that is to be kept before proposals that are to be renewed.
 */
export async function queueJob(
  tx: Tx,
  task: TaskName,
  job: { readonly booksId: BooksId },
): Promise<void> {
  const { booksId } = job;
  const { priority, isGathered, delay = 0 } = TASKS[task];
  const queue = delay > 0 ? `${task}-${booksId}` : queueNameOf(booksId);
  // The queue adds a list to the one that waits under the same key.
  const payload = JSON.stringify(isGathered ? [job] : job);
  await tx.execute(
    sql`select graphile_worker.add_job(${task}, ${payload}::json,
          queue_name := ${queue}, max_attempts := ${MOST_ATTEMPTS},
          run_at := now() + make_interval(secs => ${delay}),
          priority := ${priority}, job_key := ${isGathered ? `${task}-${booksId}` : null},
          job_key_mode := 'preserve_run_at')`,
  );
}
