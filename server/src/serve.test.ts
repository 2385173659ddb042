import { setTimeout as pause } from 'node:timers/promises';
import type { BooksId } from '@zubrell/core/ids';
import pg from 'pg';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { openSession } from './modules/session/sessions.ts';
import { type Running, serve } from './serve.ts';
import { openDatabases } from './services.ts';
import { makeBooks } from './testing/client.ts';
import { startHarness } from './testing/harness.ts';
import { plainApp } from './testing/plainApp.ts';
import type { Harness } from './testing/testServer.ts';

let harness: Harness;
let running: Running;
let booksId: BooksId;
let cookie: string;
let other: pg.Client;

beforeEach(async () => {
  harness = await startHarness();
  const client = await harness.signIn('Mo Oakes');
  booksId = (await makeBooks(client)).id as BooksId;
  const { services } = harness;
  const own = { ...services, ...openDatabases(harness.urls.runtime, 4) };
  running = await serve(own, { ...plainApp, port: 0 });
  const session = await openSession(services.database, services, client.userId);
  cookie = client.cookie.replace(client.session, session);
  other = new pg.Client({ connectionString: harness.urls.owner });
  await other.connect();
});
afterEach(async () => {
  await other.end();
  await harness.stop();
});

/** Somebody else's work on the books, which whatever comes then waits for. */
const hold = () =>
  other
    .query('begin')
    .then(() => other.query('select from books where id = $1 for update', [booksId]));

const post = (name: string) =>
  fetch(`${running.url}/api/books/${booksId}/payees`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ name, kind: 'supplier' }),
  });

it('answers what was asked before it was told to stop, ends streams, and takes nothing more', async () => {
  const stream = await fetch(`${running.url}/api/books/${booksId}/events`, { headers: { cookie } });
  await hold();
  const asked = post('Tidemark');
  await pause(300);
  const stopped = running.stop();
  await pause(200);
  await expect(post('Orrin Bell')).rejects.toThrow('fetch failed');
  await other.query('commit');
  expect((await asked).status).toBe(200);
  await stopped;
  await stream.text();
});

it('breaks off what takes too long, of which nothing stays', async () => {
  await hold();
  const asked = post('Tidemark').catch((error) => error);
  await pause(300);
  const began = Date.now();
  const stopped = running.stop(500);
  expect(await asked).toBeInstanceOf(TypeError);
  expect(Date.now() - began).toBeGreaterThanOrEqual(500);
  await stopped;
  await other.query('commit');
  const { rows } = await other.query('select from payees where books_id = $1', [booksId]);
  expect(rows).toHaveLength(0);
});
