import { taskNames } from '@zubrell/contract/jobs';
import { ZubrellError } from '@zubrell/core/errors';
import type { BooksId, FeedId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Database, inBooks, rowsOf, type Tx } from '../db/database.ts';
import { queueNameOf } from '../db/queueJob.ts';
import { lookAnew, MANY, refreshAllStatistics, SMALL } from '../db/refreshStatistics.ts';
import { idRow } from '../db/rows.ts';
import { queueFetch } from '../modules/feeds/changeFeed.ts';
import type { Services } from '../services.ts';
import { freeFeed } from './fetchFeed.ts';
import { refuseBatch } from './keepBatch.ts';
import { ALIVE } from './lifeLine.ts';

/** A job during which the server ended so often ends it by what it does. */
const MOST_CRASHES = 12;

const DeadRow = z.object({ id: z.string(), poolId: z.string(), attempts: z.number() });

/**
 * Gives back to the queue what worker pools were doing that live no more. It counts as no attempt, since it says
 * nothing against the job.
 *
 * @param grace so many milliseconds after a pool took a job, and after the database came back, its life line has to be
 * there
 */
export async function giveBackJobsOfTheDead(database: Database, grace: number): Promise<void> {
  const dead = await rowsOf(
    database,
    DeadRow,
    sql`select id::text, locked_by as "poolId", attempts from graphile_worker.jobs
        where locked_by is not null
          and greatest(locked_at, pg_postmaster_start_time()) < now() - make_interval(secs => ${grace / 1_000})
          and not exists (
            select from pg_locks where locktype = 'advisory' and classid = ${ALIVE}::oid
              and objid = hashtext(locked_by)::bit(32)::bigint::oid)`,
  );
  await freeQueues(database, grace);
  if (dead.length === 0) return;
  const pools = [...new Set(dead.map(({ poolId }) => poolId))];
  await database.transaction(async (tx) => {
    await tx.execute(sql`select graphile_worker.force_unlock_workers(${sql.param(pools)}::text[])`);
    await tx.execute(
      sql`delete from crashed_jobs c
          where not exists (select from graphile_worker.jobs j where j.id = c.job_id)`,
    );
    for (const { id, attempts } of dead) await giveBack(tx, id, attempts - 1);
  });
}

/**
 * Frees queues that are held for a job which is not being done: the library frees a queue with the job's end, and
 * finds no job to end where somebody else ended it meanwhile. It has no function for that.
 */
async function freeQueues(database: Database, grace: number): Promise<void> {
  await database.execute(
    sql`update graphile_worker._private_job_queues q set locked_by = null, locked_at = null
        where q.locked_at < now() - make_interval(secs => ${grace / 1_000}) and not exists (
          select from graphile_worker._private_jobs j
          where j.job_queue_id = q.id and j.locked_at is not null)`,
  );
}

const TimesRow = z.object({ times: z.number() });

/** Gives one job back, a little later each time that it went down with its server; in the end it is given up. */
async function giveBack(tx: Tx, id: string, attempts: number): Promise<void> {
  const [crashed] = await rowsOf(
    tx,
    TimesRow,
    sql`insert into crashed_jobs as c (job_id) values (${id}::bigint)
        on conflict (job_id) do update set times = c.times + 1 returning times`,
  );
  const times = crashed?.times ?? 1;
  if (times >= MOST_CRASHES) {
    await tx.execute(sql`select graphile_worker.permanently_fail_jobs(array[${id}::bigint])`);
    return;
  }
  await tx.execute(
    sql`select graphile_worker.reschedule_jobs(array[${id}::bigint],
          now() + make_interval(secs => ${times - 1}), attempts := ${Math.max(0, attempts)})`,
  );
}

const WaitingRow = z.object({ task: z.enum(taskNames), booksId: idRow<BooksId>(), id: z.string() });

const LiveRow = z.object({ task: z.string(), queue: z.string() });

/** Ends what waits for a job that there is no more: a batch that is being read, a feed that is being fetched. */
export async function settleDeadWork(
  services: Pick<Services, 'database' | 'clock'>,
): Promise<void> {
  const { database } = services;
  // Work is looked at before jobs: what is done in between has ended by itself.
  const waiting = await rowsOf(
    database,
    WaitingRow,
    sql`select task, books_id as "booksId", id from waiting_work()`,
  );
  if (waiting.length === 0) return;
  const live = await rowsOf(
    database,
    LiveRow,
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

const DueRow = z.object({ booksId: idRow<BooksId>(), feedId: idRow<FeedId>() });

/** Puts into the queue the feeds whose time has come. */
export async function queueDueFeeds({ database, clock }: Services): Promise<void> {
  const now = clock.now();
  const due = await rowsOf(
    database,
    DueRow,
    sql`select books_id as "booksId", feed_id as "feedId"
        from due_feeds(${now.toISOString()}::timestamptz)`,
  );
  for (const { booksId, feedId } of due) {
    await inBooks(database, booksId, (tx) => queueFetch({ tx, booksId }, feedId, null, now));
  }
}

const OutdatedRow = z.object({ relname: z.string(), isForgotten: z.boolean() });

/**
 * Has the planner look at tables anew that it plans for as they once were: all where the database has forgotten when it
 * last did, as after it crashed; and small ones of which a fifth has changed, as when somebody works off their first file.
 * PostgreSQL does it by itself, after a minute and more.
 */
export async function refreshOutdated(database: Database): Promise<void> {
  const outdated = await rowsOf(
    database,
    OutdatedRow,
    sql`select s.relname, s.last_analyze is null and s.last_autoanalyze is null as "isForgotten"
        from pg_stat_user_tables s join pg_class c on c.oid = s.relid
        where s.schemaname = 'public' and (
          s.relname = 'lines' and s.last_analyze is null and s.last_autoanalyze is null
          or c.reltuples < ${SMALL} and s.n_mod_since_analyze > greatest(${MANY}, c.reltuples / 5))`,
  );
  if (outdated.some(({ relname, isForgotten }) => relname === 'lines' && isForgotten)) {
    await refreshAllStatistics(database);
    return;
  }
  const grown = outdated.map(({ relname }) => relname);
  if (grown.length > 0) await lookAnew(database, grown);
}
