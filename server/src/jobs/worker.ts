import { EventEmitter } from 'node:events';
import { sql } from 'drizzle-orm';
import { Logger, run, type WorkerEvents } from 'graphile-worker';
import type pg from 'pg';
import { inBooks, rowsOf } from '../db/database.ts';
import { type FetchFeedJob, queueFetch } from '../modules/feeds/changeFeed.ts';
import type { KeepBatchJob } from '../modules/intake/startBatch.ts';
import type { RenewProposalsJob } from '../modules/lines/proposals.ts';
import type { Services } from '../services.ts';
import { fetchFeed } from './fetchFeed.ts';
import { keepBatch } from './keepBatch.ts';
import type { ReadFile } from './readInThread.ts';
import { renewInBackground } from './renewInBackground.ts';

/** How often workers look for others that died and for feeds that are due, in milliseconds. */
const LOOK_AFTER = 10_000;
/** First key of the session locks by which a worker shows that it lives. */
const ALIVE = 7_240_116;

/** The background worker of one server process. */
export interface Worker {
  stop(): Promise<void>;
}

/**
 * Starts working on the queue. Each worker holds a session lock named after its id while it lives;
 * jobs of a worker whose lock is free, as after `kill -9`, are given back to the queue.
 */
export async function startWorker(services: Services, readFile: ReadFile): Promise<Worker> {
  const pool = services.database.$client;
  const alive = await pool.connect();
  const events: WorkerEvents = new EventEmitter();
  events.on('worker:create', ({ worker }) => {
    alive
      .query('select pg_advisory_lock($1, hashtext($2))', [ALIVE, worker.workerId])
      .catch(() => undefined);
  });
  await giveBackJobsOfTheDead(pool);
  const runner = await run({
    pgPool: pool,
    concurrency: 2,
    pollInterval: 1_000,
    noHandleSignals: true,
    events,
    logger: new Logger(() => () => undefined),
    taskList: {
      keepBatch: async (payload, { job }) => {
        const isLast = job.attempts >= job.max_attempts;
        await keepBatch(services, readFile, payload as KeepBatchJob, isLast);
      },
      renewProposals: async (payload) => {
        await renewInBackground(services, payload as RenewProposalsJob);
      },
      fetchFeed: async (payload, { job }) => {
        const isLast = job.attempts >= job.max_attempts;
        await fetchFeed(services, readFile, payload as FetchFeedJob, isLast);
      },
    },
  });
  const timer = setInterval(() => {
    giveBackJobsOfTheDead(pool).catch(() => undefined);
    queueDueFeeds(services).catch(() => undefined);
  }, LOOK_AFTER);
  return {
    stop: async () => {
      clearInterval(timer);
      await runner.stop();
      alive.release(true);
    },
  };
}

async function giveBackJobsOfTheDead(pool: pg.Pool): Promise<void> {
  await pool.query(
    `select graphile_worker.force_unlock_workers(array_agg(locked_by))
     from (
       select locked_by from graphile_worker._private_jobs where locked_by is not null
       union
       select locked_by from graphile_worker._private_job_queues where locked_by is not null
     ) held
     where not exists (
       select from pg_locks
       where locktype = 'advisory' and classid = $1::oid
         and objid = hashtext(locked_by)::bit(32)::bigint::oid)
     having count(*) > 0`,
    [ALIVE],
  );
}

/** Puts into the queue the feeds whose time has come. */
async function queueDueFeeds({ database, clock }: Services): Promise<void> {
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
