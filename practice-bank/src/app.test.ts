import { beforeEach, describe, expect, it } from 'vitest';
import { buildBank } from './app.ts';
import { type Bank, openBank } from './bank.ts';

const account = (id: string) => ({
  id,
  name: id,
  number: '4471',
  kind: 'current' as const,
  currency: 'EUR',
  opening: 0,
  format: 'camt053' as const,
  items: [],
});

let bank: Bank;
let app: ReturnType<typeof buildBank>;

beforeEach(() => {
  const ina = {
    user: 'ina',
    secret: 'glaze',
    name: 'Ina Soltveit',
    accounts: [account('everyday'), account('reserve')],
  };
  bank = openBank({ bankName: 'Wick & Alder', customers: [ina], consents: [] }, '2026-03-20');
  app = buildBank(bank, { slowFor: 0 });
});

const form = (url: string, fields: Record<string, string>) =>
  app.inject({
    method: 'POST',
    url,
    headers: { 'content-type': 'application/x-www-form-urlencoded' },
    payload: new URLSearchParams(fields).toString(),
  });
const api = (url: string, token: string) =>
  app.inject({ url, headers: { authorization: `Bearer ${token}` } });

/** Asks for a consent and signs in. @returns the path of its page */
async function askAndSignIn(secret = 'glaze'): Promise<string> {
  const returnTo = 'http://localhost/back';
  const asked = await app.inject({
    method: 'POST',
    url: '/api/consents',
    payload: { app: 'Zubrell', state: 's1', returnTo },
  });
  const { page } = asked.json<{ page: string }>();
  const signedIn = await form(`${page}/sign-in`, { user: 'ina', secret });
  expect(signedIn.statusCode).toBe(secret === 'glaze' ? 200 : 403);
  return page;
}

/** @returns where the customer is sent after the answer */
async function answer(page: string, fields: Record<string, string>): Promise<URLSearchParams> {
  const sent = await form(`${page}/answer`, fields);
  return new URL(String(sent.headers.location)).searchParams;
}

async function tokenFor(id: string): Promise<string> {
  const code = (await answer(await askAndSignIn(), { answer: 'allow', account: id })).get('code');
  const given = await app.inject({ method: 'POST', url: '/api/tokens', payload: { code } });
  return given.json<{ token: string }>().token;
}

const lines = '/api/accounts/everyday/lines?from=2026-03-01&to=2026-03-20';

describe('a consent', () => {
  it('opens the accounts that were chosen, and no other', async () => {
    const token = await tokenFor('everyday');
    const { accounts } = (await api('/api/accounts', token)).json<{ accounts: object[] }>();
    expect(accounts).toMatchObject([{ id: 'everyday' }]);
    expect((await api(lines, token)).headers['content-type']).toContain('application/xml');
    expect((await api(lines.replace('everyday', 'reserve'), token)).statusCode).toBe(404);
    expect((await api(lines, 'made up')).statusCode).toBe(401);
  });

  it('needs the customer’s secret, and can be refused', async () => {
    const page = await askAndSignIn('wrong');
    expect(
      (await form(`${page}/answer`, { answer: 'allow', account: 'everyday' })).statusCode,
    ).toBe(404);
    const back = await answer(await askAndSignIn(), { answer: 'refuse' });
    expect(Object.fromEntries(back)).toEqual({ state: 's1', error: 'refused' });
  });

  it('is answered once, and its code is good once', async () => {
    const page = await askAndSignIn();
    const code = (await answer(page, { answer: 'allow', account: 'everyday' })).get('code');
    expect((await app.inject({ url: page })).statusCode).toBe(404);
    const redeem = () => app.inject({ method: 'POST', url: '/api/tokens', payload: { code } });
    expect((await redeem()).statusCode).toBe(200);
    expect((await redeem()).statusCode).toBe(400);
  });

  it('ends after ninety days', async () => {
    const token = await tokenFor('everyday');
    bank.today = '2026-06-18';
    expect((await api(lines, token)).statusCode).toBe(200);
    bank.today = '2026-06-19';
    expect((await api(lines, token)).json()).toEqual({ error: 'consent-expired' });
  });
});

describe('the page of switches', () => {
  it('makes the API fail, and mends it', async () => {
    const token = await tokenFor('everyday');
    await form('/switches', { on: 'tooMany' });
    const refused = await api(lines, token);
    expect(refused.statusCode).toBe(429);
    expect(refused.headers['retry-after']).toBe('1800');
    await form('/switches', { on: 'garbage' });
    expect((await api(lines, token)).headers['content-type']).toContain('text/html');
    await form('/switches', {});
    expect((await api(lines, token)).body).toContain('<Document');
  });
});
