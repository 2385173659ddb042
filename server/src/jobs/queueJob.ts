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

/** What can wait with others of its kind: they are done as one, which gets a list of them. */
const GATHERED: ReadonlySet<TaskName> = new Set<TaskName>(['renewProposals']);

/**
 * Puts work on books into the queue, in the caller's transaction. The jobs of one set of books are done one
 * after the other, a file that is to be kept before proposals that are to be renewed; requests for the latter are
 * gathered in one job until it begins.
 */
export async function queueJob(
  tx: Tx,
  task: TaskName,
  job: { readonly booksId: string },
): Promise<void> {
  const { booksId } = job;
  const isGathered = GATHERED.has(task);
  // The queue adds a list to the one that waits under the same key.
  const payload = JSON.stringify(isGathered ? [job] : job);
  await tx.execute(
    sql`select graphile_worker.add_job(${task}, ${payload}::json,
          queue_name := ${queueNameOf(booksId)}, max_attempts := ${MOST_ATTEMPTS},
          priority := ${PRIORITIES[task]}, job_key := ${isGathered ? `${task}-${booksId}` : null},
          job_key_mode := 'preserve_run_at')`,
  );
}
