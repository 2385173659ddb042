import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import type { BatchSheet } from '@zubrell/contract/intake';
import type { BackgroundJob } from '@zubrell/contract/jobs';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { buildApp } from '../app.ts';
import { inBooks, rowsOf } from '../db/database.ts';
import { queueNameOf } from '../db/queueJob.ts';
import { openReaderPool, type ReaderPool, type ReadFile } from '../modules/intake/readInThread.ts';
import { insertBatch } from '../modules/intake/startBatch.ts';
import { createUser, openSession } from '../modules/session/sessions.ts';
import { closeDatabases } from '../services.ts';
import { type Client, clientOf, makeBooks, plainKeep, type TestBooks } from '../testing/client.ts';
import { ofxFile } from '../testing/files.ts';
import { makeTestDatabase } from '../testing/harness.ts';
import { plainApp } from '../testing/plainApp.ts';
import type { TestDatabase } from '../testing/testServer.ts';
import { giveBackJobsOfTheDead, refreshOutdated, settleDeadWork } from './sweeper.ts';
import { startWorker } from './worker.ts';

const IMPATIENT = { lookAfter: 300, grace: 500 };
const HANGING = fileURLToPath(new URL('../testing/hangingWorker.ts', import.meta.url));

/** A server whose worker is started by each test, or is not. */
let made: TestDatabase;
let client: Client;
let readers: ReaderPool;
let books: TestBooks;
let closeApp: () => Promise<void>;

beforeAll(async () => {
  made = await makeTestDatabase();
  const { services } = made;
  const app = await buildApp(services, plainApp);
  closeApp = () => app.close();
  readers = openReaderPool();
  const person = { name: 'Mo Oakes', email: 'mo@larkmoor.example', password: 'long enough' };
  const user = await createUser(services.database, services, person);
  client = clientOf(app, user.id, await openSession(services.database, services, user.id));
});
afterAll(async () => {
  await closeApp();
  await readers.close();
  await closeDatabases(made.services);
  await made.drop();
});
beforeEach(async () => {
  books = await makeBooks(client);
});

async function startBatch(): Promise<string> {
  const line = { date: '2026-03-05', amount: '-10.00', text: 'ORRIN BELL', id: 'K1' };
  const uploadId = await client.upload(books.id, 'spring.ofx', ofxFile([line], '90.00'));
  return keepUpload(uploadId);
}

async function keepUpload(uploadId: string): Promise<string> {
  const path = `/api/books/${books.id}/batches`;
  const { batchId } = await client.send<{ batchId: string }>('POST', path, {
    uploadId,
    statementIndex: 0,
    bankAccountId: books.bankAccountId,
    ...plainKeep,
  });
  return batchId;
}

async function ended(batchId: string): Promise<BatchSheet> {
  for (;;) {
    const batch = await client.get<BatchSheet>(`/api/books/${books.id}/batches/${batchId}`);
    if (batch.status !== 'reading') return batch;
    await pause(100);
  }
}

const QueuedJob = z.object({ attempts: z.number(), lockedBy: z.string().nullable() });
type QueuedJob = z.infer<typeof QueuedJob>;

const BackendRows = z.object({ rows: z.tuple([z.object({ pid: z.number() })]) });

/** Whether a query tells the queue that a job is done. */
const isDone = (query: unknown): boolean =>
  /delete from .*_private_jobs/.test(
    z.object({ text: z.string() }).safeParse(query).data?.text ?? '',
  );

const RunningRow = z.object({ queue: z.string().nullable() });

function jobs(): Promise<QueuedJob[]> {
  return rowsOf(
    made.services.background,
    QueuedJob,
    sql`select attempts, locked_by as "lockedBy" from graphile_worker.jobs
        where task_identifier = 'keepBatch'`,
  );
}

/** Has another worker keep a batch. @returns at which attempt, as the queue counts them */
async function attemptsUntilKept(batchId: string): Promise<number> {
  let attempts = 0;
  const worker = await startWorker(
    made.services,
    async (...given) => {
      attempts = (await jobs())[0]?.attempts ?? 0;
      return readers.readFile(...given);
    },
    IMPATIENT,
  );
  expect((await ended(batchId)).status).toBe('kept');
  await worker.stop();
  return attempts;
}

async function until(isSo: () => Promise<boolean>): Promise<void> {
  while (!(await isSo())) await pause(100);
}

describe('jobs', () => {
  it('that take long are done once, however many servers look for dead ones', async () => {
    let begun = 0;
    const slowly: ReadFile = async (...given) => {
      begun += 1;
      await pause(22_000);
      return readers.readFile(...given);
    };
    const workers = await Promise.all([
      startWorker(made.services, slowly),
      startWorker(made.services, slowly),
    ]);
    const batch = await ended(await startBatch());
    expect(batch.status).toBe('kept');
    expect(begun).toBe(1);
    await Promise.all(workers.map((worker) => worker.stop()));
  }, 240_000);

  it('of servers that were killed are done by others, and lose no attempt by it', async () => {
    const batchId = await startBatch();
    const holders = new Set<string | null>([null]);
    for (let kills = 0; kills < 3; kills += 1) {
      const server = spawn(process.execPath, ['--import', 'tsx', HANGING, made.urls.runtime]);
      await until(async () => !holders.has((await jobs())[0]?.lockedBy ?? null));
      holders.add((await jobs())[0]?.lockedBy ?? null);
      server.kill('SIGKILL');
      await once(server, 'exit');
    }
    expect(await attemptsUntilKept(batchId)).toBe(1);
  }, 240_000);

  it('of one books never hold up those of others, however many they are', async () => {
    const busy = books;
    const many: string[] = [];
    for (let no = 0; no < 6; no += 1) many.push(await startBatch());
    books = await makeBooks(client);
    const one = await startBatch();
    let most = 0;
    const worker = await startWorker(
      made.services,
      async (...given) => {
        const running = await rowsOf(
          made.services.background,
          RunningRow,
          sql`select queue_name as queue from graphile_worker.jobs where locked_by is not null`,
        );
        most = Math.max(most, running.filter(({ queue }) => queue === queueNameOf(busy.id)).length);
        await pause(300);
        return readers.readFile(...given);
      },
      IMPATIENT,
    );
    expect((await ended(one)).status).toBe('kept');
    books = busy;
    const still = [];
    for (const batchId of many) {
      const { status } = await client.get<BatchSheet>(`/api/books/${busy.id}/batches/${batchId}`);
      if (status === 'reading') still.push(batchId);
    }
    // It came last and was done while the others waited for each other.
    expect(still.length).toBeGreaterThanOrEqual(3);
    for (const batchId of many) await ended(batchId);
    expect(most).toBe(1);
    await worker.stop();
  }, 240_000);
});

describe('a worker that is told to stop', () => {
  it('go on where the database goes away just as one is done', async () => {
    const batchId = await startBatch();
    const { background, database } = made.services;
    let isLost = false;
    background.$client.on('acquire', (connection) => {
      const query = connection.query.bind(connection) as (...given: unknown[]) => unknown;
      const lose = async (given: unknown[]): Promise<unknown> => {
        const { rows } = BackendRows.parse(await query('select pg_backend_pid() as pid'));
        await database.execute(sql`select pg_terminate_backend(${rows[0].pid})`);
        return query(...given);
      };
      Object.assign(connection, {
        query: (...given: unknown[]) => {
          if (isLost || !isDone(given[0])) return query(...given);
          isLost = true;
          return lose(given);
        },
      });
    });
    const worker = await startWorker(made.services, readers.readFile, IMPATIENT);
    expect((await ended(batchId)).status).toBe('kept');
    await until(async () => (await jobs()).length === 0);
    expect(isLost).toBe(true);
    await until(async () => worker.isWorking());
    await worker.stop();
    background.$client.removeAllListeners('acquire');
  });

  it('ends when its jobs are done, and takes no more', async () => {
    let isBegun = false;
    const worker = await startWorker(
      made.services,
      async (...given) => {
        isBegun = true;
        await pause(700);
        return readers.readFile(...given);
      },
      IMPATIENT,
    );
    const batchId = await startBatch();
    await until(async () => isBegun);
    expect(worker.isWorking()).toBe(true);
    const stopped = worker.stop();
    expect(worker.isWorking()).toBe(false);
    const later = await startBatch();
    await stopped;
    const states = [batchId, later].map((id) =>
      client.get<BatchSheet>(`/api/books/${books.id}/batches/${id}`),
    );
    expect((await Promise.all(states)).map(({ status }) => status)).toEqual(['kept', 'reading']);
    const next = await startWorker(made.services, readers.readFile, IMPATIENT);
    expect((await ended(later)).status).toBe('kept');
    await next.stop();
  });

  it('gives back what takes too long, and no attempt is lost by it', async () => {
    const batchId = await startBatch();
    const server = spawn(process.execPath, ['--import', 'tsx', HANGING, made.urls.runtime]);
    await until(async () => (await jobs())[0]?.lockedBy != null);
    server.kill('SIGTERM');
    expect(await once(server, 'exit')).toEqual([0, null]);
    expect(await attemptsUntilKept(batchId)).toBe(1);
  });
});

describe('a job that ends its server each time', () => {
  it('is given up in the end, and what waits for it says so', async () => {
    const batchId = await startBatch();
    const { background } = made.services;
    let crashes = 0;
    while ((await jobs())[0]?.attempts === 0) {
      crashes += 1;
      await background.execute(
        sql`update graphile_worker._private_jobs set locked_by = 'gone', attempts = attempts + 1,
              locked_at = now() - interval '1 minute'`,
      );
      await giveBackJobsOfTheDead(background, 0);
    }
    expect(crashes).toBe(12);
    await settleDeadWork(made.services);
    expect(await ended(batchId)).toMatchObject({ refusal: { code: 'JOB_GIVEN_UP' } });
    await background.execute(sql`delete from graphile_worker._private_jobs`);
  });
});

describe('what waits for a job that is gone', () => {
  it('is refused with the reason, and its file can be kept again', async () => {
    const { services } = made;
    const line = { date: '2026-03-05', amount: '-10.00', text: 'ORRIN BELL', id: 'K1' };
    const uploadId = await client.upload(books.id, 'spring.ofx', ofxFile([line], '90.00'));
    const actor = { userId: client.userId, name: 'Mo Oakes', session: client.session };
    const wanted = { uploadId, statementIndex: 0, bankAccountId: books.bankAccountId };
    const { batchId } = await inBooks(services.database, books.id, (tx) =>
      insertBatch({ tx, clock: services.clock, booksId: books.id, actor }, wanted),
    );
    const worker = await startWorker(services, readers.readFile, IMPATIENT);
    const refused = await ended(batchId);
    expect(refused).toMatchObject({ status: 'refused', refusal: { code: 'JOB_GIVEN_UP' } });
    expect((await ended(await keepUpload(uploadId))).status).toBe('kept');
    await worker.stop();
  }, 240_000);
});

describe('the owner’s view of what is done in the background', () => {
  const path = () => `/api/books/${books.id}/jobs`;
  const listed = async () =>
    (await client.get<{ jobs: readonly BackgroundJob[] }>(path())).jobs.filter(
      ({ task }) => task === 'keepBatch',
    );

  it('shows what waits, runs and failed, and lets it be tried again', async () => {
    const batchId = await startBatch();
    expect(await listed()).toMatchObject([{ state: 'waiting', about: 'spring.ofx', attempts: 0 }]);
    let goOn = (): void => undefined;
    const held = new Promise<void>((done) => {
      goOn = done;
    });
    let isBroken = true;
    const worker = await startWorker(
      made.services,
      async (...given) => {
        await held;
        if (isBroken) throw new Error('the reader is broken');
        return readers.readFile(...given);
      },
      IMPATIENT,
    );
    await until(async () => (await listed())[0]?.state === 'running');
    const [running] = await listed();
    const act = (what: string) => client.send('POST', `${path()}/${running?.id}/${what}`);
    await expect(act('give-up')).rejects.toThrow('JOB_RUNNING');
    goOn();
    await until(async () => (await listed())[0]?.state === 'waiting');
    expect((await listed())[0]?.againAt).not.toBeNull();
    isBroken = false;
    await act('again');
    expect((await ended(batchId)).status).toBe('kept');
    await until(async () => (await listed()).length === 0);
    await expect(act('again')).rejects.toThrow('JOB_UNKNOWN');
    await worker.stop();
  }, 240_000);

  it('lets it be given up: what waited for it says so', async () => {
    const batchId = await startBatch();
    const [waiting] = await listed();
    await client.send('POST', `${path()}/${waiting?.id}/give-up`);
    expect(await listed()).toEqual([]);
    expect(await ended(batchId)).toMatchObject({ status: 'refused' });
  });
});

describe('a queue that is held for no job', () => {
  it('is freed, so that the jobs of its books go on', async () => {
    const { background } = made.services;
    const batchId = await startBatch();
    await background.execute(
      sql`update graphile_worker._private_job_queues set locked_by = 'pool of nobody',
            locked_at = now() - interval '1 minute'
          where queue_name = ${`books-${books.id}`}`,
    );
    const worker = await startWorker(made.services, readers.readFile, IMPATIENT);
    try {
      expect((await ended(batchId)).status).toBe('kept');
    } finally {
      await worker.stop();
    }
  });
});

const LookRow = z.object({ at: z.string().nullable(), rows: z.number() });

describe('statistics', () => {
  /** When the planner looked at a table last because it was told to, and how many rows it knows of since. */
  const look = async (table: string) => {
    const [row] = await rowsOf(
      made.services.background,
      LookRow,
      sql`select to_json(s.last_analyze) #>> '{}' as at, c.reltuples as rows
          from pg_stat_user_tables s join pg_class c on c.oid = s.relid where s.relname = ${table}`,
    );
    return row ?? { at: null, rows: 0 };
  };
  const refresh = () => refreshOutdated(made.services.background);

  it('that the database has forgotten are made anew, once', async () => {
    await refresh();
    // The counts are written down a moment later.
    await expect.poll(async () => (await look('lines')).at, { timeout: 60_000 }).not.toBeNull();
    const before = await look('lines');
    await refresh();
    await pause(1_500);
    expect((await look('lines')).at).toBe(before.at);
  });

  it('of small tables are made anew once a fifth has changed, and not before', async () => {
    const add = (count: number) =>
      inBooks(made.services.database, books.id, (tx) =>
        tx.execute(sql`insert into payees (books_id, id, name, name_key, kind)
          select ${books.id}, gen_random_uuid(), n::text, gen_random_uuid()::text, 'supplier'
          from generate_series(1, ${count}::int) n`),
      );
    await add(150);
    await pause(1_500);
    await refresh();
    expect((await look('payees')).at).toBeNull();
    await add(150);
    await expect
      .poll(() => refresh().then(() => look('payees')), { timeout: 60_000 })
      .toMatchObject({ at: expect.any(String) });
    expect((await look('payees')).rows).toBeGreaterThanOrEqual(300);
  });
});
