import { setTimeout } from 'node:timers/promises';
import type { OpenSession } from '@zubrell/contract/session';
import { sql } from 'drizzle-orm';
import { TOTP } from 'otpauth';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { buildApp } from '../../app.ts';
import { countRows, openBackground, rowsOf } from '../../db/database.ts';
import { IdRow } from '../../db/rows.ts';
import type { Api } from '../../http/api.ts';
import { closeDatabases, type Services } from '../../services.ts';
import { makeTestDatabase } from '../../testing/harness.ts';
import { plainApp } from '../../testing/plainApp.ts';
import type { TestDatabase } from '../../testing/testServer.ts';
import { verifyRecords } from '../audit/verifyChains.ts';
import { resealFactors } from './resealFactors.ts';
import { makeResetLink } from './resetLinks.ts';
import { createUser, sessionCookie } from './sessions.ts';
import { openSetUp } from './setUp.ts';

const PASSWORD = 'clay and fire';
const DAY = 86_400_000;

let made: TestDatabase;
let services: Services;
let app: Api;
let now = new Date('2026-04-08T12:00:00Z');

beforeAll(async () => {
  made = await makeTestDatabase();
  const clock = { now: () => now, today: () => now.toISOString().slice(0, 10) };
  services = { ...made.services, clock };
  app = await buildApp(services, {
    ...plainApp,
    hosts: ['books.larkmoor.example'],
    trustedProxies: ['127.0.0.1'],
  });
});
afterAll(async () => {
  await app.close();
  await closeDatabases(services);
  await made.drop();
});
beforeEach(() => {
  now = new Date('2026-04-08T12:00:00Z');
});

interface Sent {
  readonly session?: string | undefined;
  /** The address from which it comes, as a proxy tells it. */
  readonly from?: string;
  readonly headers?: Record<string, string>;
}

async function send(
  method: 'GET' | 'POST' | 'DELETE',
  url: string,
  payload?: object,
  { session, from, headers = {} }: Sent = {},
) {
  const answer = await app.inject({
    method,
    url,
    ...(payload === undefined ? {} : { payload }),
    cookies: session === undefined ? {} : { [sessionCookie]: session },
    headers: { ...headers, ...(from === undefined ? {} : { 'x-forwarded-for': from }) },
  });
  const cookie = answer.cookies.find(({ name }) => name === sessionCookie)?.value;
  return { status: answer.statusCode, body: answer.json(), headers: answer.headers, cookie };
}

let people = 0;
async function newPerson(): Promise<string> {
  people += 1;
  const email = `person${people}@larkmoor.example`;
  await createUser(services.database, services, { name: 'Mo Oakes', email, password: PASSWORD });
  return email;
}

const signIn = (email: string, password = PASSWORD, sent: Sent = {}) =>
  send('POST', '/api/session', { email, password }, sent);

describe('the first user', () => {
  it('needs the code that was printed, and is one, however many try at once', async () => {
    const printed = (await openSetUp(services.database)) ?? '';
    const person = (no: number, code: string) => ({
      name: 'Ida Fennick',
      email: `first${no}@larkmoor.example`,
      password: PASSWORD,
      code,
    });
    const wrong = await send('POST', '/api/session/first-user', person(0, 'AAAAA-AAAAA'));
    expect(wrong).toMatchObject({ status: 403, body: { code: 'SET_UP_CODE_WRONG' } });
    const tries = await Promise.all(
      Array.from({ length: 5 }, (_, no) =>
        send('POST', '/api/session/first-user', person(no, printed.toLowerCase()), {
          from: `10.0.0.${no}`,
        }),
      ),
    );
    expect(tries.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409, 409]);
    expect(await openSetUp(services.database)).toBeNull();
  });
});

describe('attempts to sign in', () => {
  it('have to wait longer and longer, each for one account from one address', async () => {
    const email = await newPerson();
    const guesses = await Promise.all(
      Array.from({ length: 9 }, (_, no) => signIn(email, `guess ${no}`, { from: '10.1.0.1' })),
    );
    // Many at once are no way around it, and a slow machine may let a second pass.
    const refused = guesses.filter(({ status }) => status === 429);
    expect(refused.length).toBeGreaterThan(0);
    expect(guesses.length - refused.length).toBeGreaterThanOrEqual(5);
    await services.database.execute(
      sql`update sign_in_attempts set count = count + 6, last_at = now() where count between 5 and 9`,
    );
    const late = await signIn(email, PASSWORD, { from: '10.1.0.1' });
    expect(late.body.code).toBe('SIGN_IN_TOO_OFTEN');
    expect(late.body.params.seconds).toBeGreaterThan(30);
    // Whoever it is can still sign in from where they are.
    expect((await signIn(email, PASSWORD, { from: '10.1.0.2' })).status).toBe(200);
  });

  it('begin anew when one was right', async () => {
    const email = await newPerson();
    for (let round = 0; round < 3; round += 1) {
      for (let no = 0; no < 4; no += 1) {
        expect((await signIn(email, 'a guess', { from: '10.2.0.1' })).status).toBe(401);
      }
      expect((await signIn(email, PASSWORD, { from: '10.2.0.1' })).status).toBe(200);
    }
  });
});

describe('an office behind one address', () => {
  it('signs in as often as it likes', async () => {
    const emails = await Promise.all(Array.from({ length: 6 }, newPerson));
    for (let round = 0; round < 6; round += 1) {
      for (const email of emails) {
        expect((await signIn(email, PASSWORD, { from: '10.4.0.1' })).status).toBe(200);
      }
    }
  });
});

describe('a session', () => {
  it('ends when its browser signs in again', async () => {
    const email = await newPerson();
    const { cookie: first } = await signIn(email);
    const { cookie: second } = await signIn(email, PASSWORD, { session: first });
    expect((await send('GET', '/api/books', undefined, { session: first })).status).toBe(401);
    expect((await send('GET', '/api/books', undefined, { session: second })).status).toBe(200);
  });

  it('ends after a week in which nothing was asked, and after a month in any case', async () => {
    const email = await newPerson();
    const { cookie: idle } = await signIn(email);
    const { cookie: busy } = await signIn(email);
    const statusOf = async (session: string | undefined) =>
      (await send('GET', '/api/books', undefined, { session })).status;
    const began = now.getTime();
    for (let day = 3; day < 30; day += 3) {
      now = new Date(began + day * DAY);
      expect(await statusOf(busy)).toBe(200);
    }
    expect(await statusOf(idle)).toBe(401);
    now = new Date(began + 31 * DAY);
    expect(await statusOf(busy)).toBe(401);
  });

  it('is listed, and others can be ended: one, or all', async () => {
    const email = await newPerson();
    const headers = { 'user-agent': 'A browser' };
    const { cookie: own } = await signIn(email, PASSWORD, { headers, from: '10.3.0.1' });
    const { cookie: second } = await signIn(email);
    const { cookie: third } = await signIn(email);
    const listed = async () =>
      (await send('GET', '/api/sessions', undefined, { session: own })).body
        .sessions as OpenSession[];
    const before = await listed();
    expect(before.filter(({ isThis }) => isThis)).toMatchObject([
      { browser: 'A browser', address: '10.3.0.1' },
    ]);
    expect(before).toHaveLength(3);
    const other = before.find(({ isThis }) => !isThis);
    await send('POST', '/api/sessions/end', { id: other?.id ?? null }, { session: own });
    expect(await listed()).toHaveLength(2);
    await send('POST', '/api/sessions/end', { id: null }, { session: own });
    expect(await listed()).toHaveLength(1);
    for (const session of [second, third]) {
      expect((await send('GET', '/api/books', undefined, { session })).status).toBe(401);
    }
  });

  it('stays when the password is changed, and all others end', async () => {
    const email = await newPerson();
    const { cookie: own } = await signIn(email);
    const { cookie: other } = await signIn(email);
    const change = (present: string) =>
      send('POST', '/api/session/password', { present, fresh: 'quite another' }, { session: own });
    expect((await change('not this')).body).toMatchObject({ code: 'PASSWORD_WRONG' });
    expect((await change(PASSWORD)).status).toBe(200);
    expect((await send('GET', '/api/books', undefined, { session: own })).status).toBe(200);
    expect((await send('GET', '/api/books', undefined, { session: other })).status).toBe(401);
    expect((await signIn(email)).status).toBe(401);
    expect((await signIn(email, 'quite another')).status).toBe(200);
  });
});

describe('requests from elsewhere', () => {
  const asked = (headers: Record<string, string>) =>
    send('POST', '/api/session', { email: 'mo@larkmoor.example', password: 'x' }, { headers });

  it('are refused by their host, their origin and what the browser says of their site', async () => {
    expect((await asked({ host: 'evil.example' })).body.code).toBe('HOST_FOREIGN');
    expect((await asked({ host: 'books.larkmoor.example' })).status).toBe(401);
    expect((await asked({ host: '127.0.0.1:4310' })).status).toBe(401);
    expect((await asked({ 'sec-fetch-site': 'cross-site' })).body.code).toBe('ORIGIN_FOREIGN');
    expect((await asked({ 'sec-fetch-site': 'same-site' })).body.code).toBe('ORIGIN_FOREIGN');
    expect((await asked({ 'sec-fetch-site': 'same-origin' })).status).toBe(401);
  });

  it('leave nothing of what was answered in a cache', async () => {
    const { headers } = await send('GET', '/api/session');
    expect(headers['cache-control']).toBe('no-store');
  });
});

const SealedRow = z.object({ userId: z.string(), secret: z.string() });

describe('a second factor', () => {
  const PERIOD = 30_000;
  /** No code of a test may become too old before it is sent. */
  const MARGIN = 10_000;
  /** The code that a device shows now, or so many periods later. */
  const codeOf = (secret: string, later = 0) =>
    new TOTP({ secret, period: 30 }).generate({ timestamp: Date.now() + later * PERIOD });

  async function withFactor() {
    const left = PERIOD - (Date.now() % PERIOD);
    if (left < MARGIN) await setTimeout(left);
    const email = await newPerson();
    const { cookie } = await signIn(email);
    const begun = await send('POST', '/api/session/second-factor', {}, { session: cookie });
    const { secret, uri } = begun.body as { secret: string; uri: string };
    expect(uri).toContain('otpauth://totp/Zubrell:');
    // As long as no code was right, a password is enough.
    expect((await signIn(email)).status).toBe(200);
    const confirm = (code: string) =>
      send('POST', '/api/session/second-factor/confirm', { code }, { session: cookie });
    expect((await confirm('000000')).body).toMatchObject({ code: 'SECOND_FACTOR_WRONG' });
    const { body } = await confirm(codeOf(secret, -1));
    return { email, cookie, secret, codes: (body as { codes: string[] }).codes };
  }
  const signInWith = (email: string, code?: string) =>
    send('POST', '/api/session', { email, password: PASSWORD, ...(code ? { code } : {}) });

  it('is asked for once the password is right, and no code is taken twice', async () => {
    const { email, secret } = await withFactor();
    expect((await signIn(email, 'guessed')).body).toMatchObject({ code: 'SIGN_IN_WRONG' });
    expect((await signInWith(email)).body).toMatchObject({ code: 'SECOND_FACTOR_NEEDED' });
    expect((await signInWith(email, '123')).body).toMatchObject({ code: 'SECOND_FACTOR_WRONG' });
    const code = codeOf(secret);
    expect((await signInWith(email, `${code.slice(0, 3)} ${code.slice(3)}`)).status).toBe(200);
    expect((await signInWith(email, code)).body).toMatchObject({ code: 'SECOND_FACTOR_WRONG' });
    expect((await signInWith(email, codeOf(secret, -1))).status).toBe(401);
    expect((await signInWith(email, codeOf(secret, 1))).status).toBe(200);
  });

  it('has ten recovery codes, each for once', async () => {
    const { email, cookie, codes } = await withFactor();
    expect(new Set(codes).size).toBe(10);
    const [first = '', second = ''] = codes;
    expect(first).toMatch(/^[a-z2-9]{4}-[a-z2-9]{4}-[a-z2-9]{4}$/);
    expect((await signInWith(email, first.toUpperCase())).status).toBe(200);
    expect((await signInWith(email, first)).body).toMatchObject({ code: 'SECOND_FACTOR_WRONG' });
    const state = await send('GET', '/api/session/second-factor', undefined, { session: cookie });
    expect(state.body).toEqual({ isOn: true, codesLeft: 9 });
    // Nobody turns it off who has nothing but the open browser.
    const end = (code: string) =>
      send('POST', '/api/session/second-factor/end', { code }, { session: cookie });
    expect((await end('000000')).status).toBe(401);
    expect((await end(second)).status).toBe(200);
    expect((await signIn(email)).status).toBe(200);
  });

  it('can’t be guessed, from wherever it is tried', async () => {
    const { email, secret } = await withFactor();
    const from = (no: number, code: string) =>
      send('POST', '/api/session', { email, password: PASSWORD, code }, { from: `10.7.0.${no}` });
    for (let no = 0; no < 5; no += 1) expect((await from(no, '000000')).status).toBe(401);
    // Some more, so that the wait is longer than this test.
    await services.database.execute(sql`update sign_in_attempts set count = count + 6`);
    expect((await from(8, '000000')).body).toMatchObject({ code: 'SIGN_IN_TOO_OFTEN' });
    // Not even the right one, until the wait is over.
    expect((await from(9, codeOf(secret))).status).toBe(429);
  });

  it('is kept sealed, and sealed anew with a new key', async () => {
    const { secret } = await withFactor();
    const sealed = async () => {
      const [row] = await rowsOf(
        services.database,
        SealedRow,
        sql`select user_id as "userId", secret from second_factors order by created_at desc limit 1`,
      );
      return row ?? { userId: '', secret: '' };
    };
    const before = await sealed();
    expect(before.secret).not.toContain(secret);
    const { background, secrets } = services;
    expect(secrets.open(before.secret, before.userId)).toBe(secret);
    await resealFactors({ background, secrets });
    expect((await sealed()).secret).toBe(before.secret);
  });
});

describe('a link to set a new password', () => {
  it('sets it once, ends all sessions, and may end a lost second factor', async () => {
    const email = await newPerson();
    const { cookie } = await signIn(email);
    const [user] = await rowsOf(
      services.database,
      IdRow,
      sql`select id from users where email = ${email}`,
    );
    const link = (ends: boolean) =>
      makeResetLink(services.database, services, user?.id ?? '', ends);
    const replaced = await link(false);
    const secret = await link(true);
    await send('POST', '/api/session/second-factor', {}, { session: cookie });
    await services.database.execute(
      sql`update second_factors set is_on = true where user_id = ${user?.id}`,
    );
    const at = (which: string) => `/api/reset-links/${which}`;
    expect((await send('GET', at(replaced))).body).toMatchObject({ code: 'RESET_UNKNOWN' });
    expect((await send('GET', at(secret))).body).toEqual({ name: 'Mo Oakes', email });
    expect((await send('POST', at(secret), { password: 'short' })).status).toBe(400);
    expect((await send('POST', at(secret), { password: 'glaze and ash' })).status).toBe(200);
    const again = await send('POST', at(secret), { password: 'glaze and ash' });
    expect(again.body).toMatchObject({ code: 'RESET_UNKNOWN' });
    const session = await send('GET', '/api/session', undefined, { session: cookie });
    expect(session.body).toMatchObject({ user: null });
    expect((await signIn(email)).status).toBe(401);
    expect((await signIn(email, 'glaze and ash')).status).toBe(200);
    const late = await link(false);
    now = new Date(now.getTime() + DAY + 1);
    expect((await send('GET', at(late))).body).toMatchObject({ code: 'RESET_UNKNOWN' });
  });
});

const LeftRow = z.object({ name: z.string(), email: z.string() });

describe('erasing oneself', () => {
  it('needs the password, replaces the name, and leaves the record whole', async () => {
    const email = await newPerson();
    const { cookie } = await signIn(email, PASSWORD, { from: '10.9.9.9' });
    const erase = (password: string) =>
      send('POST', '/api/session/erase', { password }, { session: cookie });
    expect((await erase('guessed')).body).toMatchObject({ code: 'PASSWORD_WRONG' });
    // Books would be without an owner.
    const created = await send(
      'POST',
      '/api/books',
      { name: 'Larkmoor Kiln Works', currency: 'EUR' },
      { session: cookie },
    );
    const { id } = created.body as { id: string };
    expect((await erase(PASSWORD)).body).toMatchObject({ code: 'OWNER_NEEDED' });
    await services.database.execute(
      sql`update memberships set role = 'reviewer' where books_id = ${id}`,
    );
    expect((await erase(PASSWORD)).status).toBe(200);
    expect((await signIn(email)).status).toBe(401);
    const left = await rowsOf(
      services.database,
      LeftRow,
      sql`select name, email from users where erased_at is not null`,
    );
    expect(left).toEqual([
      { name: 'Erased person', email: expect.stringMatching(/@erased\.invalid$/) },
    ]);
    const owner = openBackground(made.urls.owner, 1);
    const found = await countRows(
      owner,
      sql`select from audit_records where personal ->> 'address' = '10.9.9.9'`,
    );
    const { faults } = await owner.transaction((tx) => verifyRecords(tx, null));
    await owner.$client.end();
    expect([found, faults]).toEqual([0, []]);
  });
});
