import { once } from 'node:events';
import { type ClientRequest, type IncomingMessage, request } from 'node:http';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { buildApp } from '../app.ts';
import { createUser, openSession } from '../modules/session/sessions.ts';
import { closeDatabases } from '../services.ts';
import { type Client, clientOf, makeBooks, type TestBooks } from '../testing/client.ts';
import { makeTestDatabase } from '../testing/harness.ts';
import { plainApp } from '../testing/plainApp.ts';
import type { TestDatabase } from '../testing/testServer.ts';
import type { Api } from './api.ts';

/** Longer than any file here takes to come in, however busy the machine is. */
const PATIENT = 120_000;
const HASTY = 700;

let made: TestDatabase;
let app: Api;
let hastyApp: Api;
let client: Client;
let books: TestBooks;

beforeAll(async () => {
  made = await makeTestDatabase();
  const { services } = made;
  app = await listening(PATIENT);
  hastyApp = await listening(HASTY);
  const person = { name: 'Mo Oakes', email: 'mo@larkmoor.example', password: 'long enough' };
  const user = await createUser(services.database, services, person);
  client = clientOf(app, user.id, await openSession(services.database, services, user.id));
  books = await makeBooks(client);
});
afterAll(async () => {
  await app.close();
  await hastyApp.close();
  await closeDatabases(made.services);
  await made.drop();
});

/** A server that gives up a file of which nothing has come for so many milliseconds. */
async function listening(stalled: number): Promise<Api> {
  const opened = await buildApp(made.services, { ...plainApp, stalled });
  await opened.listen({ port: 0, host: '127.0.0.1' });
  return opened;
}

/** Begins to send a file, as slowly as the test likes. */
function beginUpload(to = app, path = 'uploads?fileName=spring.ofx'): ClientRequest {
  const sent = request(new URL(`/api/books/${books.id}/${path}`, to.listeningOrigin), {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream', cookie: client.cookie },
  });
  // Whoever is refused may be cut off before everything is sent.
  sent.on('error', () => undefined);
  sent.write('OFX');
  return sent;
}

async function answerOf(sent: ClientRequest): Promise<{ status: number; code?: string }> {
  const [answer] = (await once(sent, 'response')) as [IncomingMessage];
  let text = '';
  for await (const piece of answer) text += piece;
  return { status: answer.statusCode ?? 0, code: JSON.parse(text).code };
}

describe('files that come in slowly', () => {
  it('stop nobody else: three of one person come in at once, and no connection waits for them', async () => {
    const slow = Array.from({ length: 12 }, () => beginUpload());
    const answered: string[] = [];
    const answers = slow.map(async (each) => {
      const { code = 'taken' } = await answerOf(each);
      answered.push(code);
    });
    await vi.waitFor(() => expect(answered).toHaveLength(9), 30_000);
    const taken = await made.services.database.execute(
      sql`select from pg_stat_activity where datname = current_database() and state = 'idle in transaction'`,
    );
    expect(taken.rows).toHaveLength(0);
    // While none of them has come in, others are answered.
    await books.setup();
    for (const each of slow) each.end('HEADER:100');
    await Promise.all(answers);
    const refused = Array(9).fill('UPLOADS_TOO_MANY');
    expect(answered).toEqual([...refused, 'taken', 'taken', 'taken']);
    expect(await client.upload(books.id, 'after.ofx', 'OFXHEADER:100')).not.toBe('');
  });

  it('are given up when nothing more comes, and leave room for others', async () => {
    const stuck = Array.from({ length: 3 }, () => beginUpload(hastyApp));
    const answers = await Promise.all(stuck.map(answerOf));
    expect(answers.map(({ code }) => code)).toEqual(Array(3).fill('UPLOAD_STALLED'));
    for (const each of stuck) each.destroy();
    expect(await client.upload(books.id, 'after.ofx', 'OFXHEADER:100')).not.toBe('');
  });

  it('are measured while they come, where they don’t say their length', async () => {
    const { id: payeeId } = await client.send<{ id: string }>(
      'POST',
      `/api/books/${books.id}/payees`,
      { name: 'New', kind: 'other' },
    );
    const large = beginUpload(app, `lines/${payeeId}/attachments?fileName=scan.pdf`);
    const answer = answerOf(large);
    for (let sent = 0; sent < 11; sent += 1) large.write(Buffer.alloc(1_048_576));
    large.end();
    expect(await answer).toMatchObject({ status: 413, code: 'FILE_TOO_LARGE' });
  });
});

describe('a command on books that are busy', () => {
  it('is told so after a few seconds, with when to come again, and changes nothing', async () => {
    const add = () =>
      app.inject({
        method: 'POST',
        url: `/api/books/${books.id}/payees`,
        headers: { cookie: client.cookie },
        payload: { name: 'Later', kind: 'other' },
      });
    const before = await books.lastStep();
    await made.services.background.transaction(async (tx) => {
      await tx.execute(sql`select set_config('app.books_id', ${books.id}, true)`);
      await tx.execute(sql`select from books where id = ${books.id} for update`);
      const refused = await add();
      expect(refused.statusCode).toBe(503);
      expect(refused.json()).toMatchObject({ code: 'BUSY' });
      expect(Number(refused.headers['retry-after'])).toBeGreaterThan(0);
    });
    expect(await books.lastStep()).toBe(before);
    expect((await add()).statusCode).toBe(200);
  }, 120_000);
});
