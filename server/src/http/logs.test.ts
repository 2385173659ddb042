import { PassThrough } from 'node:stream';
import type { BatchStarted } from '@zubrell/contract/intake';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { z } from 'zod';
import { buildApp } from '../app.ts';
import type { BankConnector } from '../connectors/connector.ts';
import { openBackground, rowsOf } from '../db/database.ts';
import { openLog } from '../log.ts';
import { sessionCookie } from '../modules/session/sessions.ts';
import { type Client, clientOf, makeBooks, plainKeep } from '../testing/client.ts';
import { ofxFile } from '../testing/files.ts';
import { startHarness } from '../testing/harness.ts';
import { plainApp } from '../testing/plainApp.ts';
import type { Harness } from '../testing/testServer.ts';
import type { Api } from './api.ts';

const WORDING = 'NETTLE AND THREAD 4711';
const TOKEN = 'token-of-the-bank';
const PASSWORD = 'clay and secrets';

/** A bank whose connector quotes what it should not. */
const careless: BankConnector = {
  bankName: 'Wick & Alder',
  askConsent: () => Promise.reject(new Error(`${TOKEN} ${WORDING}`)),
  finishConsent: () => Promise.reject(new Error(TOKEN)),
  accounts: () => Promise.reject(new Error(TOKEN)),
  fetchLines: () => Promise.reject(new Error(TOKEN)),
};

let harness: Harness;
let app: Api;
let client: Client;
const logged: string[] = [];

beforeAll(async () => {
  harness = await startHarness({ connectors: new Map([['careless', careless]]) });
  const log = new PassThrough();
  log.on('data', (bytes: Buffer) => logged.push(bytes.toString()));
  app = await buildApp(harness.services, { ...plainApp, log: openLog(log) });
  const { userId, session } = await harness.signIn('Mo Oakes');
  client = clientOf(app, userId, session);
});
afterAll(async () => {
  await app.close();
  await harness.stop();
});

it('hold the kind of a fault and its place, and no wording, token or password', async () => {
  const books = await makeBooks(client);
  const path = `/api/books/${books.id}`;
  const line = { date: '2026-03-02', amount: '-48.50', text: WORDING, id: 'A1' };
  await books.keep('march.ofx', ofxFile([line], '500.00'));
  await client.get(`${path}/found-lines?search=${encodeURIComponent(WORDING)}`);
  // A fault of ours.
  await expect(client.send('POST', `${path}/consents`, { connector: 'careless' })).rejects.toThrow(
    'INTERNAL',
  );
  const signIn = { email: 'mo@larkmoor.example', password: PASSWORD };
  await app.inject({ method: 'POST', url: '/api/session', payload: signIn });
  await app.inject({
    method: 'GET',
    url: `${path}/lines/${WORDING}`,
    cookies: { [sessionCookie]: 'a made up session' },
  });
  const text = logged.join('');
  expect(text).toContain('"kind":"Error"');
  expect(text).toContain('/api/books/:booksId/consents');
  for (const secret of [WORDING, 'NETTLE', TOKEN, PASSWORD, client.session, 'made up']) {
    expect(text).not.toContain(secret);
  }
});

interface LogLine {
  readonly msg: string;
  readonly requestId?: string;
  readonly route?: string;
  readonly status?: number;
  readonly booksId?: string;
  readonly error?: { readonly kind: string; readonly stack: readonly string[] };
}

const lines = (): LogLine[] =>
  logged
    .join('')
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => JSON.parse(line));

it('name a request by the id that its answer carries, with its books, time and status', async () => {
  const books = await makeBooks(client);
  const answer = await app.inject({
    url: `/api/books/${books.id}/lanes?search=${encodeURIComponent(WORDING)}`,
    headers: { cookie: client.cookie },
  });
  const id = answer.headers['x-request-id'];
  expect(id).toMatch(/^[\da-f-]{36}$/);
  const line = lines().find(({ requestId }) => requestId === id);
  expect(line).toMatchObject({
    msg: 'answered',
    method: 'GET',
    route: '/api/books/:booksId/lanes',
    status: 200,
    booksId: books.id,
    ms: expect.any(Number),
  });
});

it('say of a fault of ours where in the program it happened, and what caused it', async () => {
  const books = await makeBooks(client);
  const { urls } = harness;
  const owner = openBackground(urls.owner, 1);
  await owner.execute(sql.raw('alter table payees rename to payees_gone'));
  const answer = await app.inject({
    method: 'POST',
    url: `/api/books/${books.id}/payees`,
    headers: { cookie: client.cookie },
    payload: { name: WORDING, kind: 'supplier' },
  });
  await owner.execute(sql.raw('alter table payees_gone rename to payees'));
  await owner.$client.end();
  expect(answer.statusCode).toBe(500);
  const id = answer.headers['x-request-id'];
  const line = lines().find(({ requestId, error }) => requestId === id && error !== undefined);
  expect(line).toMatchObject({
    msg: 'failed',
    booksId: books.id,
    error: {
      query: expect.stringContaining('payees'),
      cause: { kind: 'error', sqlState: '42P01' },
    },
  });
  expect(line?.error?.stack[0]).toMatch(/:\d+:\d+\)?$/);
  expect(logged.join('')).not.toContain(WORDING);
});

const ErrorRow = z.object({ error: z.string().nullable() });

it('of the queue hold no wording either', async () => {
  const books = await makeBooks(client);
  const line = { date: '2026-03-02', amount: '-48.50', text: WORDING, id: 'A1' };
  const uploadId = await client.upload(books.id, 'march.ofx', ofxFile([line], '500.00'));
  // The database refuses the line's wording, and says so by quoting it.
  const { urls } = harness;
  const owner = openBackground(urls.owner, 1);
  await owner.execute(
    sql.raw(
      `alter table lines add constraint never check (description not like 'NETTLE%') not valid`,
    ),
  );
  const { batchId } = await client.send<BatchStarted>('POST', `/api/books/${books.id}/batches`, {
    uploadId,
    statementIndex: 0,
    bankAccountId: books.bankAccountId,
    ...plainKeep,
  });
  let error: string | null = null;
  for (let tries = 0; tries < 100 && error === null; tries += 1) {
    await new Promise((done) => setTimeout(done, 50));
    const [job] = await rowsOf(
      harness.database,
      ErrorRow,
      sql`select last_error as error from graphile_worker.jobs where last_error is not null limit 1`,
    );
    error = job?.error ?? null;
  }
  await owner.execute(sql.raw('alter table lines drop constraint never'));
  await owner.$client.end();
  expect(batchId).not.toBe('');
  expect(error).toContain('23514');
  expect(error).not.toContain('NETTLE');
});
