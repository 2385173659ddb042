import { request as httpRequest } from 'node:http';
import type { DeskLine } from '@zubrell/contract/desk';
import type { Session } from '@zubrell/contract/session';
import { errors } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { migrate } from '../db/migrate.ts';
import { createUser } from '../modules/session/sessions.ts';
import { type Client, makeBooks, type TestBooks } from '../testing/client.ts';
import { ofxFile } from '../testing/files.ts';
import { startHarness } from '../testing/harness.ts';
import type { Harness } from '../testing/testServer.ts';

let harness: Harness;
let client: Client;
let books: TestBooks;

beforeAll(async () => {
  harness = await startHarness();
  client = await harness.signIn('Mo Oakes');
  books = await makeBooks(client);
});
afterAll(() => harness.stop());

const one = (id: string, date = '2026-03-05') =>
  ofxFile([{ date, amount: '-10.00', text: `ORRIN BELL ${id}`, id }], '90.00');

describe('the API', () => {
  it('answers errors with problem details from the table', async () => {
    const answer = await harness.app.inject('/api/nowhere');
    expect(answer.headers['content-type']).toContain('application/problem+json');
    expect(answer.json()).toEqual({
      type: 'urn:zubrell:error:NOT_FOUND',
      title: errors.NOT_FOUND[1],
      status: 404,
      code: 'NOT_FOUND',
      params: {},
    });
    const path = `/api/books/${books.id}/accounts`;
    const wrong = { code: 'not a code', name: 'X', type: 'expense', parentId: null };
    await expect(client.send('POST', path, wrong)).rejects.toThrow(
      'REQUEST_INVALID: The request can’t',
    );
  });

  it('signs in with the right password, for this browser, until signing out', async () => {
    const clock = { now: () => new Date('2026-04-08T10:00:00Z'), today: () => '2026-04-08' };
    const wanted = { name: 'Pat Word', email: 'pat@larkmoor.example', password: 'glaze and clay' };
    await createUser(harness.database, { clock }, wanted);
    const signIn = (password: string) =>
      harness.app.inject({
        method: 'POST',
        url: '/api/session',
        payload: { email: 'PAT@larkmoor.example', password },
      });
    expect((await signIn('clay and glaze')).json()).toMatchObject({ code: 'SIGN_IN_WRONG' });
    const [cookie] = (await signIn('glaze and clay')).cookies;
    expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Lax' });
    const cookies = { [cookie?.name ?? '']: cookie?.value ?? '' };
    const who = async () =>
      (await harness.app.inject({ url: '/api/session', cookies })).json<Session>().user?.name;
    expect(await who()).toBe('Pat Word');
    await harness.app.inject({ method: 'DELETE', url: '/api/session', cookies });
    expect(await who()).toBeUndefined();
  });

  it('holds back who tries passwords', async () => {
    const attempt = () =>
      harness.app.inject({
        method: 'POST',
        url: '/api/session',
        payload: { email: 'mo@larkmoor.example', password: 'guess' },
      });
    const codes: number[] = [];
    for (let count = 0; count < 12; count += 1) codes.push((await attempt()).statusCode);
    expect(codes[0]).toBe(401);
    expect(codes.at(-1)).toBe(429);
  });

  it('migrates a database that is up to date without a change', async () => {
    await migrate(harness.urls);
    expect((await books.setup()).accounts.length).toBeGreaterThan(30);
  });
});

describe('drafts', () => {
  it('are shared, versioned, and never lost to another’s', async () => {
    await books.keep('draft.ofx', one('D1'));
    const path = `/api/books/${books.id}`;
    const { lines } = await client.get<{ lines: DeskLine[] }>(
      `${path}/stack-lines?lane=blank&grouping=lookAlikes&key=ORRIN%20BELL&direction=out`,
    );
    const draft = (accountId: string, version: number) =>
      client.send('PUT', `${path}/lines/${lines[0]?.id}/draft`, {
        coding: { payeeId: null, accountId, taxCodeId: null, note: null },
        version,
      });
    const phone = await books.accountId('6030');
    expect(await draft(phone, 0)).toEqual({ version: 1 });
    await expect(draft(await books.accountId('6010'), 0)).rejects.toThrow(
      'Mo Oakes has changed the draft',
    );
    expect(await draft(phone, 1)).toEqual({ version: 2 });
  });
});

describe('events', () => {
  it('carry step numbers as they happen, and replay what was missed', async () => {
    const url = await harness.app.listen({ port: 0, host: '127.0.0.1' });
    const session = await harness.signIn('Eve Watcher');
    await harness.database.execute(
      sql`insert into memberships (books_id, user_id, role)
          values (${books.id}, ${session.userId}, 'client')`,
    );
    const heard: string[] = [];
    const listening = httpRequest(`${url}/api/books/${books.id}/events`, {
      headers: { cookie: session.cookie, 'last-event-id': '0' },
    });
    const until = async (isEnough: () => boolean) => {
      while (!isEnough()) await new Promise((done) => setTimeout(done, 10));
    };
    listening.on('response', (response) => {
      response.setEncoding('utf8');
      response.on('data', (text: string) => {
        heard.push(...[...text.matchAll(/^id: (\d+)$/gm)].map((match) => match[1] ?? ''));
      });
    });
    listening.on('error', () => undefined);
    listening.end();
    const lastStep = await books.lastStep();
    await until(() => heard.length >= lastStep);
    expect(heard).toEqual(Array.from({ length: lastStep }, (_, index) => `${index + 1}`));
    await client.send('POST', `/api/books/${books.id}/payees`, { name: 'New', kind: 'other' });
    await until(() => heard.includes(String(lastStep + 1)));
    listening.destroy();
  });

  it('refuses a last event that is no step', async () => {
    for (const id of ['x', '-1', '1.5', '9'.repeat(30)]) {
      const answer = await harness.app.inject({
        url: `/api/books/${books.id}/events`,
        headers: { cookie: client.cookie, 'last-event-id': id },
      });
      expect(answer.json()).toMatchObject({ status: 400, code: 'EVENT_ID_WRONG' });
    }
  });
});
