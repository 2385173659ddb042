import { EventEmitter } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import { type Job, Logger, type Runner, run, type WorkerEvents } from 'graphile-worker';
import { z } from 'zod';
import { errorKind } from '../db/databaseErrors.ts';
import { patiently, untilDatabaseIsBack } from '../db/patiently.ts';
import { errorFacts, type Log, openLog } from '../log.ts';
import { FetchFeedJob } from '../modules/feeds/changeFeed.ts';
import { SaveHabitsJob } from '../modules/habits/booksMemory.ts';
import type { ReadFile } from '../modules/intake/readInThread.ts';
import { KeepBatchJob } from '../modules/intake/startBatch.ts';
import { RenewProposalsJob } from '../modules/proposals/renewProposals.ts';
import type { Services } from '../services.ts';
import { fetchFeed } from './fetchFeed.ts';
import { keepBatch } from './keepBatch.ts';
import { type LifeLine, openLifeLine } from './lifeLine.ts';
import { renewInBackground } from './renewInBackground.ts';
import { saveHabits } from './saveHabits.ts';
import { SummariseBooksJob, summariseBooks } from './summariseBooks.ts';
import {
  giveBackJobsOfTheDead,
  queueDueFeeds,
  refreshOutdated,
  settleDeadWork,
} from './sweeper.ts';
import { watchFolders } from './watchFolders.ts';

/** How often workers look for others that died, for work that nobody does and for feeds that are due, in milliseconds. */
const LOOK_AFTER = 10_000;
/** How long they wait for a database that went away before they ask again. */
const AWAY = 1_000;
const AT_ONCE = 2;
/** Life lines that break are there again sooner than this. */
const GRACE = 5_000;

/** The background worker of one server process. */
export interface Worker {
  /** Whether it works on the queue just now. */
  isWorking(): boolean;
  /**
   * Takes no more jobs and ends when those that it does are done.
   *
   * @param most how long it waits for them, in milliseconds; what is not done then is given back, for others or for
   * the next start, and this process has to end
   */
  stop(most?: number): Promise<void>;
}

/** How patient a worker is, in milliseconds; tests are less so. */
export interface WorkerOptions {
  readonly lookAfter?: number;
  /** How long after others took jobs their life lines have to be there. */
  readonly grace?: number;
  /** Where it is told which jobs were done and which failed. */
  readonly log?: Log;
}

/** Whose books a job is about, or several jobs that were put together. */
const AboutBooks = z.preprocess(
  (payload) => [payload].flat(),
  z.array(z.object({ booksId: z.string() })).min(1),
);

/**
 * Starts working on the queue, and goes on by itself when the database was away. The queue stores a worker pool's
 * name with each job that it does; while it lives, it holds a session lock by that name, so that others can give back
 * what it was doing when it is gone, as after `kill -9`.
 */
export async function startWorker(
  services: Services,
  readFile: ReadFile,
  { lookAfter = LOOK_AFTER, grace = GRACE, log = openLog(null) }: WorkerOptions = {},
): Promise<Worker> {
  // Jobs have connections of their own.
  const own: Services = { ...services, database: services.background };
  let isStopping = false;
  let runner: Runner | null = null;
  const life = await openLifeLine(own.database);

  /** That the database was away counts as no attempt. */
  const undisturbed = async (
    { id, task_identifier: task, attempts, payload }: Job,
    work: () => Promise<void>,
  ): Promise<void> => {
    const about = AboutBooks.safeParse(payload).data?.[0];
    const facts = { task, jobId: id, attempt: attempts, ...about };
    const began = performance.now();
    try {
      await untilDatabaseIsBack(work, () => !isStopping);
      log.info({ ...facts, ms: Math.round(performance.now() - began) }, 'job done');
    } catch (error) {
      log.error({ ...facts, error: errorFacts(error) }, 'job failed');
      // The queue keeps the message for whoever looks after it, and lines may be quoted in it.
      throw plainError(error);
    }
  };
  const isLast = (job: { attempts: number; max_attempts: number }) =>
    job.attempts >= job.max_attempts;

  async function begin(): Promise<Runner> {
    await giveBackJobsOfTheDead(own.database, grace);
    return run({
      pgPool: own.database.$client,
      concurrency: AT_ONCE,
      pollInterval: 1_000,
      noHandleSignals: true,
      events: eventsFor(life, () => void runner?.stop().catch(() => undefined)),
      logger: new Logger(() => () => undefined),
      preset: { worker: TOLD_TOGETHER },
      taskList: {
        keepBatch: (payload, { job }) =>
          undisturbed(job, () =>
            keepBatch(own, readFile, KeepBatchJob.parse(payload), isLast(job)),
          ),
        renewProposals: (payload, { job }) =>
          undisturbed(job, () => renewInBackground(own, z.array(RenewProposalsJob).parse(payload))),
        saveHabits: (payload, { job }) =>
          undisturbed(job, () => saveHabits(own.database, z.array(SaveHabitsJob).parse(payload))),
        summariseBooks: (payload, { job }) =>
          undisturbed(job, () => summariseBooks(own, z.array(SummariseBooksJob).parse(payload))),
        fetchFeed: (payload, { job }) =>
          undisturbed(job, () =>
            fetchFeed(own, readFile, FetchFeedJob.parse(payload), isLast(job)),
          ),
      },
    });
  }

  /** Works until told to stop; what ends the queue's runner, as a database that goes away, is waited for. */
  async function goOn(): Promise<void> {
    while (!isStopping) {
      try {
        runner ??= await begin();
        await runner.promise;
      } catch {
        // It is begun again below.
      }
      // What the runner was doing when it ended is given back.
      life.letGoAll();
      runner = null;
      if (!isStopping) await pause(AWAY);
    }
  }

  runner = await patiently(begin);
  const ended = goOn();
  let looking: Promise<void> = Promise.resolve();
  const timer = setInterval(() => {
    looking = looking
      .then(() => lookAround(own, grace))
      .then(() => watchFolders(own, readFile, log))
      .catch(() => undefined);
  }, lookAfter);
  return {
    isWorking: () => runner !== null && !isStopping,
    stop: async (most) => {
      isStopping = true;
      clearInterval(timer);
      const done = Promise.all([runner?.stop().catch(() => undefined), ended, looking]);
      await (most === undefined ? done : Promise.race([done, pause(most, null, { ref: false })]));
      await life.close();
    },
  };
}

async function lookAround(services: Services, grace: number): Promise<void> {
  await giveBackJobsOfTheDead(services.database, grace);
  await settleDeadWork(services);
  await queueDueFeeds(services);
  await refreshOutdated(services.database);
}

/**
 * That jobs are done is told together, after no time. Told one by one, nobody waits for the answer, and a database that
 * goes away just then ends the process; told together, it ends the pool, which is begun anew.
 */
const TOLD_TOGETHER = { completeJobBatchDelay: 0, failJobBatchDelay: 0 };

/** So often in a row no job could be got: the queue keeps a failure of its first question for ever. */
const MOST_FAILURES = 2 * AT_ONCE + 1;

/**
 * A worker pool lives under the name that the queue stores with its jobs. It begins anew, under another name, where it
 * gets none for errors, and once it gets on again: the answer that was lost may have given it a job, which only somebody
 * else can be given then.
 */
function eventsFor(life: LifeLine, beginAnew: () => void): WorkerEvents {
  const events: WorkerEvents = new EventEmitter();
  let failures = 0;
  const gotOn = (): void => {
    if (failures > 0) beginAnew();
    failures = 0;
  };
  events.on('pool:create', ({ workerPool }) => life.hold(workerPool.id));
  events.on('worker:getJob:empty', gotOn);
  events.on('job:start', gotOn);
  events.on('worker:getJob:error', () => {
    failures += 1;
    if (failures % MOST_FAILURES === 0) beginAnew();
  });
  return events;
}

/** An error that tells nothing of what was worked on. */
function plainError(error: unknown): Error {
  const { kind, sqlState } = errorKind(error);
  return new Error(sqlState === undefined ? kind : `${kind} ${sqlState}`);
}
