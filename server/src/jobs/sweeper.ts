import { ZubrellError } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { type Database, inBooks, rowsOf } from '../db/database.ts';
import { queueFetch } from '../modules/feeds/changeFeed.ts';
import type { Services } from '../services.ts';
import { freeFeed } from './fetchFeed.ts';
import { refuseBatch } from './keepBatch.ts';
import { ALIVE } from './lifeLine.ts';
import { queueNameOf, type TaskName } from './queueJob.ts';

/**
 * Gives back to the queue what worker pools were doing that live no more. It counts as no attempt, since it says
 * nothing against the job.
 *
 * @param grace so many milliseconds after a pool took a job its life line has to be there
 */
export async function giveBackJobsOfTheDead(database: Database, grace: number): Promise<void> {
  const dead = await rowsOf<{ id: string; poolId: string; attempts: number }>(
    database,
    sql`select id::text, locked_by as "poolId", attempts from graphile_worker.jobs
        where locked_by is not null and locked_at < now() - make_interval(secs => ${grace / 1_000})
          and not exists (
            select from pg_locks where locktype = 'advisory' and classid = ${ALIVE}::oid
              and objid = hashtext(locked_by)::bit(32)::bigint::oid)`,
  );
  if (dead.length === 0) return;
  const pools = [...new Set(dead.map(({ poolId }) => poolId))];
  await database.transaction(async (tx) => {
    await tx.execute(sql`select graphile_worker.force_unlock_workers(${sql.param(pools)}::text[])`);
    for (const { id, attempts } of dead) {
      await tx.execute(
        sql`select graphile_worker.reschedule_jobs(array[${id}::bigint], now(),
              attempts := ${Math.max(0, attempts - 1)})`,
      );
    }
  });
}

/** Ends what waits for a job that there is no more: a batch that is being read, a feed that is being fetched. */
export async function settleDeadWork(
  services: Pick<Services, 'database' | 'clock'>,
): Promise<void> {
  const { database } = services;
  // Work is looked at before jobs: what is done in between has ended by itself.
  const waiting = await rowsOf<{ task: TaskName; booksId: string; id: string }>(
    database,
    sql`select task, books_id as "booksId", id from waiting_work()`,
  );
  if (waiting.length === 0) return;
  const live = await rowsOf<{ task: string; queue: string }>(
    database,
    sql`select distinct task_identifier as task, queue_name as queue from graphile_worker.jobs
        where attempts < max_attempts or locked_by is not null`,
  );
  const isLive = new Set(live.map(({ task, queue }) => `${task} ${queue}`));
  for (const { task, booksId, id } of waiting) {
    if (isLive.has(`${task} ${queueNameOf(booksId)}`)) continue;
    const error = new ZubrellError('JOB_GIVEN_UP');
    if (task === 'keepBatch') await refuseBatch(services, { booksId, batchId: id }, error);
    else await freeFeed(services, { booksId, feedId: id }, error);
  }
}

/** Puts into the queue the feeds whose time has come. */
export async function queueDueFeeds({ database, clock }: Services): Promise<void> {
  const now = clock.now();
  const due = await rowsOf<{ booksId: string; feedId: string }>(
    database,
    sql`select books_id as "booksId", feed_id as "feedId"
        from due_feeds(${now.toISOString()}::timestamptz)`,
  );
  for (const { booksId, feedId } of due) {
    await inBooks(database, booksId, (tx) => queueFetch(tx, booksId, feedId, null, now));
  }
}
