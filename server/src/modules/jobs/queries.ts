import { BackgroundJob } from '@zubrell/contract/jobs';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { queueNameOf } from '../../db/queueJob.ts';

/** So many are shown; what waits longest comes first. */
const SHOWN = 200;

/** What is to be done in the background for some books, and what could not be done. */
export function jobsOf(tx: Tx, booksId: BooksId): Promise<BackgroundJob[]> {
  return rowsOf(
    tx,
    BackgroundJob,
    sql`select j.id::text as id, j.task_identifier as task, j.attempts,
          case when j.locked_by is not null then 'running'
            when j.attempts >= j.max_attempts then 'failed' else 'waiting' end as state,
          coalesce(t.file_name, f.remote_name) as about,
          to_json(coalesce(j.locked_at, j.created_at)) #>> '{}' as since,
          case when j.locked_by is null and j.attempts between 1 and j.max_attempts - 1
            then to_json(j.run_at) #>> '{}' end as "againAt"
        from graphile_worker.jobs j join graphile_worker._private_jobs p on p.id = j.id
        left join batches t on t.books_id = ${booksId} and t.id::text = p.payload ->> 'batchId'
        left join feeds f on f.books_id = ${booksId} and f.id::text = p.payload ->> 'feedId'
        where j.queue_name = ${queueNameOf(booksId)}
        order by (j.locked_by is null), (j.attempts >= j.max_attempts), j.priority, j.id
        limit ${SHOWN}`,
  );
}

/** Lets work be tried again, as often as at first. @throws {ZubrellError} JOB_UNKNOWN, JOB_RUNNING */
export async function tryJobAgain(tx: Tx, booksId: BooksId, id: string): Promise<void> {
  await checkIdle(tx, booksId, id);
  await tx.execute(
    sql`select graphile_worker.reschedule_jobs(array[${id}::bigint], now(), attempts := 0)`,
  );
}

/** Takes work off the queue. @throws {ZubrellError} JOB_UNKNOWN, JOB_RUNNING */
export async function giveJobUp(tx: Tx, booksId: BooksId, id: string): Promise<void> {
  await checkIdle(tx, booksId, id);
  await tx.execute(sql`select graphile_worker.complete_jobs(array[${id}::bigint])`);
}

const IsRunningRow = z.object({ isRunning: z.boolean() });

async function checkIdle(tx: Tx, booksId: BooksId, id: string): Promise<void> {
  const [job] = await rowsOf(
    tx,
    IsRunningRow,
    sql`select locked_by is not null as "isRunning" from graphile_worker.jobs
        where id = ${id}::bigint and queue_name = ${queueNameOf(booksId)}`,
  );
  if (!job) fail('JOB_UNKNOWN');
  if (job.isRunning) fail('JOB_RUNNING');
}
