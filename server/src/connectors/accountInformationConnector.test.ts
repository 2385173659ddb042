import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ConsentAsked, ConsentFinished, Feed, Feeds } from '@zubrell/contract/feeds';
import { addDays } from '@zubrell/core/dates/calendarDate';
import type { AccountId } from '@zubrell/core/ids';
import { buildBank } from '@zubrell/practice-bank/app';
import { type Bank, openBank } from '@zubrell/practice-bank/bank';
import type { Account, BankItem } from '@zubrell/practice-bank/records';
import type { Switch } from '@zubrell/practice-bank/switches';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { bookkeeper } from '../testing/bookkeeper.ts';
import { type Client, makeBooks, type TestBooks } from '../testing/client.ts';
import { startHarness } from '../testing/harness.ts';
import type { Harness } from '../testing/testServer.ts';
import { accountInformationConnector } from './accountInformationConnector.ts';
import type { BankConnector } from './connector.ts';
import { standardBanksOf } from './standardBanks.ts';

const TODAY = '2026-03-20';
const PATIENCE = 1_500;
const BANK = 'Wick & Alder';
const STATE = 'c0ffee';
const BACK = 'http://localhost/books/b/intake/consent';

const item = (day: number, more: Partial<BankItem> = {}): BankItem => ({
  id: `W${day}`,
  date: addDays('2026-02-01', day),
  amount: -(1_000 + day),
  wording: `Orrin Bell ${day}`,
  announced: null,
  announcedAmount: null,
  reference: `R${day}`,
  ...more,
});
/** More than a page of the bank holds. */
const items = Array.from({ length: 40 }, (_, day) => item(day));
const announced = item(90, { date: '2026-03-22', announced: '2026-03-19', id: 'later' });
const account: Account = {
  id: 'everyday',
  name: 'Everyday',
  number: '4471',
  kind: 'current',
  currency: 'EUR',
  opening: 100_000,
  format: 'camt053',
  items: [...items, announced],
};

let bank: Bank;
let address: string;
let closeBank: () => Promise<void>;
let connector: BankConnector;

beforeAll(async () => {
  const mo = { user: 'mo', secret: 'clay', name: 'Mo Oakes', accounts: [account] };
  bank = openBank({ bankName: BANK, customers: [mo], consents: [] }, TODAY);
  const app = buildBank(bank, { slowFor: 2 * PATIENCE });
  address = await app.listen({ port: 0, host: '127.0.0.1' });
  closeBank = () => app.close();
  const url = `${address}/psd2/`;
  connector = accountInformationConnector({ bankName: BANK, url }, () => TODAY, PATIENCE);
});
afterAll(() => closeBank());
beforeEach(() => bank.troubles.clear());

/** Answers at the bank's own pages, as its customer. @returns where the bank sends them back to */
async function answerAt(page: string, answer: 'allow' | 'refuse'): Promise<URL> {
  const form = (values: Record<string, string>): RequestInit => ({
    method: 'POST',
    redirect: 'manual',
    body: new URLSearchParams(values),
  });
  await fetch(`${page}/sign-in`, form({ user: 'mo', secret: 'clay' }));
  const back = await fetch(`${page}/answer`, form({ account: account.id, answer }));
  return new URL(back.headers.get('location') ?? '');
}

async function consent(): Promise<string> {
  const { page, name } = await connector.askConsent(STATE, BACK);
  const { searchParams } = await answerAt(page, 'allow');
  return (await connector.finishConsent(searchParams.get('code') ?? '', name)).token;
}

async function linesOf(token: string, from = '2026-02-01', to = TODAY): Promise<string> {
  const { bytes } = await connector.fetchLines(token, account.id as AccountId, from, to);
  let text = '';
  for await (const piece of bytes) text += new TextDecoder().decode(piece);
  return text;
}

describe('a consent', () => {
  it('is given at the bank, and holds for the accounts that its customer chose', async () => {
    const { page, name } = await connector.askConsent(STATE, BACK);
    await expect(connector.finishConsent('given', name)).rejects.toMatchObject({
      code: 'FEED_REFUSED',
    });
    const back = await answerAt(page, 'allow');
    expect(back.href.startsWith(BACK)).toBe(true);
    expect(back.searchParams.get('state')).toBe(STATE);
    const given = await connector.finishConsent(back.searchParams.get('code') ?? '', name);
    expect(given.expires).toBe(addDays(TODAY, 90));
    expect(await connector.accounts(given.token)).toEqual([
      { id: 'everyday', name: 'Everyday', number: '4471' },
    ]);
  });

  it('that was refused is none', async () => {
    const { page, name } = await connector.askConsent(STATE, BACK);
    const back = await answerAt(page, 'refuse');
    expect(back.searchParams.get('error')).toBe('refused');
    expect(back.searchParams.get('code')).toBeNull();
    await expect(connector.finishConsent('given', name)).rejects.toMatchObject({
      code: 'FEED_CONSENT_EXPIRED',
    });
    await expect(connector.accounts('made-up')).rejects.toMatchObject({
      code: 'FEED_CONSENT_EXPIRED',
    });
  });
});

describe('lines', () => {
  it('come page by page, with references, what is announced, and the balances', async () => {
    const text = await linesOf(await consent());
    expect(text.match(/<Cd>BOOK</g)).toHaveLength(40);
    expect(text.match(/<Cd>PDNG</g)).toHaveLength(1);
    expect(text).toContain('<EndToEndId>R39</EndToEndId>');
    const moved = items.reduce((sum, { amount }) => sum + amount, 0);
    expect(text).toContain(`<Amt Ccy="EUR">${((100_000 + moved) / 100).toFixed(2)}</Amt>`);
  });

  it('are of the asked days alone', async () => {
    const text = await linesOf(await consent(), '2026-02-10', '2026-02-12');
    expect(text.match(/<Cd>BOOK</g)).toHaveLength(3);
  });

  it.each([
    ['down', 'FEED_BANK_DOWN'],
    ['slow', 'FEED_BANK_DOWN'],
    ['garbage', 'FEED_GARBAGE'],
    ['cutOff', 'FEED_GARBAGE'],
    ['tooMany', 'FEED_TOO_MANY'],
    ['expireConsents', 'FEED_CONSENT_EXPIRED'],
  ] as const)('of a bank with trouble are none: %s is %s', async (trouble: Switch, code) => {
    const token = await consent();
    bank.troubles.add(trouble);
    await expect(linesOf(token)).rejects.toMatchObject({ code });
  });

  it('of an account that is gone, or in days that can’t be, are refused as such', async () => {
    const token = await consent();
    const gone = connector.fetchLines(token, 'another' as AccountId, TODAY, TODAY);
    await expect(gone).rejects.toMatchObject({ code: 'FEED_ACCOUNT_GONE' });
    await expect(linesOf(token, TODAY, '2026-03-01')).rejects.toMatchObject({
      code: 'FEED_REFUSED',
    });
  });
});

describe('a list of banks', () => {
  const folder = mkdtempSync(join(tmpdir(), 'zubrell-banks-'));
  const file = join(folder, 'banks.json');
  const write = (content: unknown) => writeFileSync(file, JSON.stringify(content));
  afterAll(() => rmSync(folder, { recursive: true }));
  const wick = { name: 'wick', bankName: BANK, url: 'https://bank.example/psd2/' };

  it('names each with its address, and reads the certificates beside it', () => {
    writeFileSync(join(folder, 'ours.pem'), 'a certificate');
    writeFileSync(join(folder, 'ours.key'), 'a key');
    write([{ ...wick, certificate: 'ours.pem', key: 'ours.key' }]);
    expect(standardBanksOf(file).get('wick')).toEqual({
      bankName: BANK,
      url: wick.url,
      certificate: 'a certificate',
      key: 'a key',
    });
  });

  it('says what is wrong, and where', () => {
    const problem = (content: unknown) => {
      write(content);
      try {
        return String(standardBanksOf(file));
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(problem([{ ...wick, url: 'bank.example' }])).toMatch(/banks\.json: 0\.url: /);
    expect(problem([{ ...wick, name: 'Wick & Alder' }])).toMatch(/0\.name: has to be of small/);
    expect(problem([wick, wick])).toMatch(/two banks have one name/);
    expect(problem([{ ...wick, secret: 'x' }])).toMatch(/Unrecognized key/);
    writeFileSync(file, 'no JSON');
    expect(() => standardBanksOf(file)).toThrow(/banks\.json, can’t be read/);
  });
});

describe('in the books', () => {
  let harness: Harness;
  let client: Client;
  let books: TestBooks;
  beforeAll(async () => {
    harness = await startHarness({ connectors: new Map([['wick', connector]]) });
    client = await harness.signIn('Mo Oakes');
    books = await makeBooks(client);
  });
  afterAll(() => harness.stop());
  afterEach(() => bank.troubles.clear());

  it('a feed brings what the bank has, once, and goes on after trouble', async () => {
    const path = `/api/books/${books.id}`;
    const { page } = await client.send<ConsentAsked>('POST', `${path}/consents`, {
      connector: 'wick',
    });
    const { searchParams } = await answerAt(page, 'allow');
    const finished = await client.send<ConsentFinished>('POST', `${path}/consents/finish`, {
      state: searchParams.get('state'),
      code: searchParams.get('code'),
    });
    const [feedId] = finished.feedIds;
    const settled = async (): Promise<Feed | undefined> => {
      for (;;) {
        const { feeds } = await client.get<Feeds>(`${path}/feeds`);
        const feed = feeds.find(({ id }) => id === feedId);
        if (feed?.result != null && !feed.isFetching) return feed;
        await new Promise((done) => setTimeout(done, 50));
      }
    };
    expect((await settled())?.result).toMatchObject({ kind: 'fetched' });
    const ours = bookkeeper(client, books.id as never);
    const open = await ours.open();
    expect(open.length).toBeGreaterThan(20);
    expect(new Set(open.map(({ description }) => description)).size).toBe(open.length);
  });
});
