import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { z } from 'zod';
import { closeDatabases } from '../services.ts';
import { makeTestDatabase } from '../testing/harness.ts';
import type { TestDatabase } from '../testing/testServer.ts';
import { inBooks, rowsOf } from './database.ts';
import { queueJob } from './queueJob.ts';

const BOOKS = '11111111-1111-4111-8111-111111111111';
const OTHERS = '22222222-2222-4222-8222-222222222222';
const WaitingRow = z.object({ task: z.string(), payload: z.unknown() });

let made: TestDatabase;
beforeAll(async () => {
  made = await makeTestDatabase();
});
afterAll(async () => {
  await closeDatabases(made.services);
  await made.drop();
});

const queue = (task: Parameters<typeof queueJob>[1], job: { booksId: string; no: number }) =>
  inBooks(made.services.database, job.booksId, (tx) => queueJob(tx, task, job));

it('gathers what is to be proposed for anew, of each books apart, and nothing else', async () => {
  for (const no of [1, 2, 3]) await queue('renewProposals', { booksId: BOOKS, no });
  await queue('renewProposals', { booksId: OTHERS, no: 4 });
  for (const no of [5, 6]) await queue('keepBatch', { booksId: BOOKS, no });
  const waiting = await rowsOf(
    made.services.background,
    WaitingRow,
    sql`select t.identifier as task, j.payload from graphile_worker._private_jobs j
        join graphile_worker._private_tasks t on t.id = j.task_id order by j.id`,
  );
  expect(waiting).toEqual([
    {
      task: 'renewProposals',
      payload: [1, 2, 3].map((no) => ({ booksId: BOOKS, no })),
    },
    { task: 'renewProposals', payload: [{ booksId: OTHERS, no: 4 }] },
    { task: 'keepBatch', payload: { booksId: BOOKS, no: 5 } },
    { task: 'keepBatch', payload: { booksId: BOOKS, no: 6 } },
  ]);
});
