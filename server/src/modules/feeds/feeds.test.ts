import type { ConsentAsked, ConsentFinished, Feed, Feeds } from '@zubrell/contract/feeds';
import type { BatchLines } from '@zubrell/contract/intake';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { buildBank } from '@zubrell/practice-bank/app';
import { type Bank, openBank } from '@zubrell/practice-bank/bank';
import type { Account, BankItem } from '@zubrell/practice-bank/records';
import { bookedBy } from '@zubrell/practice-bank/report';
import { type Switch, switchNames } from '@zubrell/practice-bank/switches';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { practiceConnector } from '../../connectors/practiceConnector.ts';
import { countRows, inBooks, rowsOf } from '../../db/database.ts';
import { queueNameOf } from '../../db/queueJob.ts';
import { settleDeadWork } from '../../jobs/sweeper.ts';
import { makeKey, openSecrets } from '../../secrets.ts';
import { type Client, makeBooks, type TestBooks } from '../../testing/client.ts';
import { startHarness } from '../../testing/harness.ts';
import type { Harness } from '../../testing/testServer.ts';
import { resealConsents } from './resealConsents.ts';

const BANK = 'Wick & Alder';
/** How long the bank may take, in milliseconds: long enough for a busy machine. */
const PATIENCE = 1_500;
const FIRST = '2026-03-01';
const customer = { user: 'mo', secret: 'clay', name: 'Mo Oakes' };

let bank: Bank;
let address: string;
let harness: Harness;
let client: Client;
let books: TestBooks;
let path: string;
let closeBank: () => Promise<void>;

/** The bank's records change from test to test; its server stays. */
const accounts: Account[] = [];

beforeAll(async () => {
  const customers = [{ ...customer, accounts }];
  bank = openBank({ bankName: BANK, customers, consents: [] }, FIRST);
  const app = buildBank(bank, { slowFor: 2 * PATIENCE });
  address = await app.listen({ port: 0, host: '127.0.0.1' });
  closeBank = () => app.close();
  harness = await startHarness({
    clock: { now: () => new Date(`${bank.today}T12:00:00Z`), today: () => bank.today },
    connectors: new Map([['practice', practiceConnector(address, BANK, PATIENCE)]]),
  });
  // Signed in late, so that the session outlives the days that tests let pass.
  bank.today = '2026-12-31';
  client = await harness.signIn('Mo Oakes');
});
afterAll(async () => {
  await harness.stop();
  await closeBank();
});
beforeEach(async () => {
  bank.today = FIRST;
  bank.troubles.clear();
  books = await makeBooks(client);
  path = `/api/books/${books.id}`;
});

/** Feeds left behind would be fetched in the background when tests let days pass. */
async function endFeeds(): Promise<void> {
  const { feeds } = await client.get<Feeds>(`${path}/feeds`);
  for (const { id } of feeds) await client.send('POST', `${path}/feeds/${id}/end`);
}
afterEach(endFeeds);

let count = 0;
function item(
  date: string,
  amount: number,
  wording: string,
  more: Partial<BankItem> = {},
): BankItem {
  count += 1;
  const usual = { announced: null, announcedAmount: null, reference: null };
  return { id: `W${count}`, date, amount, wording, ...usual, ...more };
}

function setAccount(items: readonly BankItem[], more: Partial<Account> = {}): Account {
  const account: Account = {
    id: 'everyday',
    name: 'Everyday',
    number: '4471',
    kind: 'current',
    currency: 'EUR',
    opening: 100_000,
    format: 'camt053',
    items: [...items],
    ...more,
  };
  accounts.splice(0, accounts.length, account);
  return account;
}

const form = (values: Record<string, string>): RequestInit => ({
  method: 'POST',
  redirect: 'manual',
  body: new URLSearchParams(values),
});

/** Asks for a consent and answers it at the bank, as a customer would. @returns what comes back */
async function answerAtBank(answer: 'allow' | 'refuse'): Promise<URLSearchParams> {
  const { page } = await client.send<ConsentAsked>('POST', `${path}/consents`, {
    connector: 'practice',
  });
  await fetch(`${page}/sign-in`, form({ user: customer.user, secret: customer.secret }));
  const back = await fetch(`${page}/answer`, form({ account: 'everyday', answer }));
  return new URL(back.headers.get('location') ?? '').searchParams;
}

async function connect(): Promise<string> {
  const back = await answerAtBank('allow');
  const { feedIds } = await client.send<ConsentFinished>('POST', `${path}/consents/finish`, {
    state: back.get('state'),
    code: back.get('code'),
  });
  const [id = ''] = feedIds;
  await fetched(id);
  return id;
}

async function feedOf(id: string): Promise<Feed> {
  const { feeds } = await client.get<Feeds>(`${path}/feeds`);
  const feed = feeds.find((each) => each.id === id);
  if (!feed) throw new Error('the feed is gone');
  return feed;
}

async function fetchNow(id: string): Promise<Feed> {
  await client.send('POST', `${path}/feeds/${id}/fetch`);
  return fetched(id);
}

async function fetched(id: string): Promise<Feed> {
  for (;;) {
    const feed = await feedOf(id);
    if (!feed.isFetching) return feed;
    await new Promise((done) => setTimeout(done, 15));
  }
}

const LineRow = z.object({ line: z.string() });

/** The lines in the books as the bank would name them. */
function keptLines(): Promise<string[]> {
  return inBooks(harness.database, books.id, async (tx) => {
    const rows = await rowsOf(
      tx,
      LineRow,
      sql`select concat_ws(' ', date, amount, description) as line from lines
          where books_id = ${books.id} and is_here and twice_of is null order by 1`,
    );
    return rows.map(({ line }) => line);
  });
}

const truth = (account: Account, since: string): string[] =>
  bookedBy(account, bank.today)
    .filter(({ date }) => date >= since)
    .map(({ date, amount, wording }) => `${date} ${amount} ${wording}`)
    .sort();

const TokensRow = z.object({ id: z.string(), token: z.string() });

describe('the token of a consent', () => {
  const tokens = () =>
    inBooks(harness.database, books.id, (tx) =>
      rowsOf(tx, TokensRow, sql`select id, token from consents where books_id = ${books.id}`),
    );

  it('is kept sealed, is sealed anew with a new key, and is asked for anew without it', async () => {
    setAccount([]);
    const id = await connect();
    const [sealed] = await tokens();
    expect(sealed?.token).toMatch(/^v1\./);
    const { background, secrets: own } = harness.services;
    const other = makeKey();
    // Nobody knows both keys: it stays as it is.
    expect(await resealConsents({ background, secrets: openSecrets([other]) })).toBe(0);
    // One of before there were keys is sealed.
    await inBooks(harness.database, books.id, (tx) =>
      tx.execute(sql`update consents set token = 'as it was' where books_id = ${books.id}`),
    );
    await resealConsents({ background, secrets: openSecrets([other]) });
    expect(await tokens()).not.toContainEqual(expect.objectContaining({ token: 'as it was' }));
    expect(await fetchNow(id)).toMatchObject({
      result: { kind: 'trouble', code: 'FEED_KEY_GONE' },
      nextAt: null,
    });
    // Whoever watches the server sees that there is one.
    expect(await countRows(harness.database, sql`select where feeds_in_trouble() > 0`)).toBe(1);
    expect(own.open(sealed?.token ?? '', sealed?.id ?? '')).not.toBe('');
  });
});

describe('a feed that nothing fetches any more', () => {
  it('is freed, says so, and is tried again by itself', async () => {
    setAccount([]);
    const id = await connect();
    // The job that fetched it stands in the queue for a moment after what it wrote.
    const queued = sql`select from graphile_worker.jobs where queue_name = ${queueNameOf(books.id)}`;
    await vi.waitUntil(async () => (await countRows(harness.database, queued)) === 0, 10_000);
    await inBooks(harness.database, books.id, (tx) =>
      tx.execute(sql`update feeds set is_fetching = true, next_at = null where id = ${id}`),
    );
    const clock = { now: () => new Date(`${bank.today}T12:00:00Z`), today: () => bank.today };
    const { database } = harness;
    await settleDeadWork({ database, clock });
    const feed = await feedOf(id);
    expect(feed).toMatchObject({
      isFetching: false,
      result: { kind: 'trouble', code: 'JOB_GIVEN_UP' },
    });
    expect(feed.nextAt).not.toBeNull();
    expect((await fetchNow(id)).result).toMatchObject({ kind: 'fetched' });
  });
});

describe('a consent', () => {
  it('makes a feed of each account, tied to the bank account with its number', async () => {
    setAccount([]);
    const feed = await feedOf(await connect());
    expect(feed).toMatchObject({
      bankName: BANK,
      bankAccountId: books.bankAccountId,
      isDaily: true,
      consentExpires: addDays(FIRST, 90),
    });
  });

  it('that is refused changes nothing, and its answer counts once', async () => {
    setAccount([]);
    const back = await answerAtBank('refuse');
    const answer = { state: back.get('state'), code: back.get('code') };
    const finish = () => client.send('POST', `${path}/consents/finish`, answer);
    await expect(finish()).rejects.toThrow('FEED_REFUSED');
    await expect(finish()).rejects.toThrow('CONSENT_UNKNOWN');
    expect((await client.get<Feeds>(`${path}/feeds`)).feeds).toEqual([]);
  });

  it('is signed in only with the right secret, and not while the bank refuses', async () => {
    setAccount([]);
    const { page } = await client.send<ConsentAsked>('POST', `${path}/consents`, {
      connector: 'practice',
    });
    const signIn = (secret: string) =>
      fetch(`${page}/sign-in`, form({ user: customer.user, secret })).then(({ status }) => status);
    expect(await signIn('wrong')).toBe(403);
    bank.troubles.add('refuseSignIn');
    expect(await signIn(customer.secret)).toBe(403);
    bank.troubles.clear();
    expect(await signIn(customer.secret)).toBe(200);
  });

  it('can be given anew, and the feed goes on under it', async () => {
    const account = setAccount([item(FIRST, -500, 'PENHALLOW CLAY')]);
    const id = await connect();
    await fetchNow(id);
    bank.today = addDays(FIRST, 100);
    account.items.push(item(addDays(FIRST, 80), -700, 'KILN PARTS'));
    expect((await fetchNow(id)).result).toMatchObject({ code: 'FEED_CONSENT_EXPIRED' });
    expect(await connect()).toBe(id);
    expect((await feedOf(id)).result).toMatchObject({ kind: 'fetched', newCount: 1 });
    expect(await keptLines()).toEqual(truth(account, FIRST));
  });
});

describe('a feed', () => {
  it('brings lines, shows what is announced, and books it once it is booked', async () => {
    const card = item('2026-03-06', -2_110, 'MARKET STALL', {
      announced: '2026-03-04',
      announcedAmount: -2_000,
    });
    const account = setAccount([item('2026-03-02', -4_850, 'PENHALLOW CLAY'), card]);
    const id = await connect();
    bank.today = '2026-03-05';
    const first = await fetchNow(id);
    expect(first.result).toMatchObject({ kind: 'fetched', newCount: 1, difference: 0 });
    expect(first.announced).toEqual([
      { date: '2026-03-04', amount: -2_000, description: 'MARKET STALL' },
    ]);
    bank.today = '2026-03-07';
    const second = await fetchNow(id);
    expect(second.result).toMatchObject({ newCount: 1, doubtfulCount: 0, difference: 0 });
    expect(second.announced).toEqual([]);
    expect(await keptLines()).toEqual(truth(account, FIRST));
    const { result } = await fetchNow(id);
    expect(result).toMatchObject({ newCount: 0, batchId: null });
  });

  it('asks for nothing before the opening balance', async () => {
    const account = setAccount([
      item('2026-02-20', -900, 'OLD HARBOUR'),
      item('2026-03-02', -4_850, 'PENHALLOW CLAY'),
    ]);
    bank.today = '2026-03-05';
    await client.send('POST', `${path}/bank-accounts/${books.bankAccountId}/opening`, {
      date: '2026-02-28',
      amount: 99_100,
    });
    const id = await connect();
    expect(await feedOf(id)).toMatchObject({ lastFrom: '2026-03-01', result: { difference: 0 } });
    expect(await keptLines()).toEqual(truth(account, '2026-03-01'));
  });

  it('tells the batch it made, with the feed as its source', async () => {
    setAccount([item('2026-03-02', -4_850, 'PENHALLOW CLAY')]);
    const id = await connect();
    bank.today = '2026-03-03';
    const { result } = await fetchNow(id);
    const batchId = result?.kind === 'fetched' ? (result.batchId ?? '') : '';
    expect(await client.get(`${path}/batches/${batchId}`)).toMatchObject({
      feedId: id,
      fileName: `${BANK} feed`,
      newCount: 1,
    });
    const { items } = await client.get<BatchLines>(`${path}/batches/${batchId}/lines`);
    expect(items).toHaveLength(1);
  });

  it('feeds one bank account only, and can be turned to another or ended', async () => {
    setAccount([]);
    const id = await connect();
    const other = await makeOther();
    await client.send('PATCH', `${path}/feeds/${id}`, {
      bankAccountId: other,
      isDaily: false,
      lookBackDays: 10,
    });
    expect(await feedOf(id)).toMatchObject({
      bankAccountId: other,
      isDaily: false,
      lookBackDays: 10,
    });
    await client.send('PATCH', `${path}/feeds/${id}`, { bankAccountId: null });
    await expect(fetchNow(id)).rejects.toThrow('FEED_NO_ACCOUNT');
    await client.send('POST', `${path}/feeds/${id}/end`);
    await expect(fetchNow(id)).rejects.toThrow('FEED_UNKNOWN');
  });
});

async function makeOther(): Promise<string> {
  const { id } = await client.send<{ id: string }>('POST', `${path}/bank-accounts`, {
    name: 'Tax pot',
    kind: 'savings',
    bank: BANK,
    number: null,
  });
  return id;
}

describe('trouble', () => {
  const troubles: [Switch, string][] = [
    ['down', 'FEED_BANK_DOWN'],
    ['slow', 'FEED_BANK_DOWN'],
    ['garbage', 'FEED_GARBAGE'],
    ['cutOff', 'FEED_GARBAGE'],
    ['tooMany', 'FEED_TOO_MANY'],
    ['expireConsents', 'FEED_CONSENT_EXPIRED'],
  ];
  it.each(troubles)(
    '%s is told as %s, keeps nothing, and is mended without a gap',
    async (name, code) => {
      const account = setAccount([item('2026-03-02', -4_850, 'PENHALLOW CLAY')]);
      const id = await connect();
      await client.send('PATCH', `${path}/feeds/${id}`, { lookBackDays: 1 });
      bank.today = '2026-03-03';
      await fetchNow(id);
      account.items.push(
        item('2026-03-04', -700, 'KILN PARTS'),
        item('2026-03-20', -90, 'CORNER OVEN'),
      );
      bank.today = '2026-03-21';
      bank.troubles.add(name);
      const troubled = await fetchNow(id);
      expect(troubled.result).toMatchObject({ kind: 'trouble', code });
      expect(troubled.failures).toBe(1);
      expect(troubled.nextAt === null).toBe(code === 'FEED_CONSENT_EXPIRED');
      if (troubled.nextAt !== null) {
        // A pause that the bank asks for is kept; else it is tried again soon.
        const pause = Date.parse(troubled.nextAt) - Date.parse('2026-03-21T12:00:00Z');
        expect(pause / 60_000).toBe(code === 'FEED_TOO_MANY' ? 30 : 5);
      }
      expect(await keptLines()).toHaveLength(1);
      bank.troubles.clear();
      const mended = await fetchNow(id);
      expect(mended).toMatchObject({ failures: 0, result: { kind: 'fetched', newCount: 2 } });
      expect(await keptLines()).toEqual(truth(account, FIRST));
    },
  );

  it('is tried again by itself when its time has come', async () => {
    const account = setAccount([item('2026-03-02', -4_850, 'PENHALLOW CLAY')]);
    const id = await connect();
    bank.troubles.add('down');
    bank.today = '2026-03-03';
    await fetchNow(id);
    bank.troubles.clear();
    bank.today = '2026-03-04';
    const seen = await vi.waitFor(
      async () => {
        const feed = await feedOf(id);
        if (feed.result?.kind !== 'fetched') throw new Error('not yet');
        return feed;
      },
      { timeout: 100_000, interval: 200 },
    );
    expect(seen.failures).toBe(0);
    expect(await keptLines()).toEqual(truth(account, FIRST));
  });

  it('of an allowance nearly used is shown', async () => {
    setAccount([item('2026-03-02', -4_850, 'PENHALLOW CLAY')]);
    const id = await connect();
    bank.today = '2026-03-03';
    bank.troubles.add('fewCalls');
    expect((await fetchNow(id)).callsLeft).toBe(1);
  });

  it('of a line that came late, beyond the days looked at, is found by the balance', async () => {
    const account = setAccount([item('2026-03-02', -4_850, 'PENHALLOW CLAY')]);
    const id = await connect();
    await client.send('PATCH', `${path}/feeds/${id}`, { lookBackDays: 1 });
    bank.today = '2026-03-03';
    await fetchNow(id);
    bank.today = '2026-03-30';
    await fetchNow(id);
    account.items.push(item('2026-03-05', -1_200, 'FORGOTTEN DUES'));
    bank.today = '2026-03-31';
    expect((await fetchNow(id)).result).toMatchObject({ newCount: 1, difference: 0 });
    expect(await keptLines()).toEqual(truth(account, FIRST));
  });
});

describe('any sequence of mischief', () => {
  const wordings = ['CORNER OVEN', 'CORNER OVEN', 'PENHALLOW CLAY 0417', 'CARD 4471 MARKET STALL'];
  const payments = fc.array(
    fc.record({
      day: fc.nat(39),
      amount: fc.constantFrom(-350, -350, -350, -1_250, -4_850, 64_000),
      wording: fc.constantFrom(...wordings),
      announcedFor: fc.constantFrom(0, 0, 0, 1, 2),
    }),
    { minLength: 5, maxLength: 60 },
  );
  const turns = fc.array(
    fc.record({
      days: fc.integer({ min: 0, max: 7 }),
      troubles: fc.subarray([...switchNames], { maxLength: 3 }),
    }),
    { minLength: 3, maxLength: 7 },
  );

  it('leaves the lines as the bank has them: none lost, none twice', async () => {
    await fc.assert(
      fc.asyncProperty(
        payments,
        turns,
        fc.constantFrom('camt053' as const, 'ofx' as const),
        fc.constantFrom(null, 2, 20),
        async (made, played, format, lookBackDays) => {
          bank.today = FIRST;
          bank.troubles.clear();
          books = await makeBooks(client);
          path = `/api/books/${books.id}`;
          const account = setAccount(
            made.map(({ day, amount, wording, announcedFor }) => {
              const date = addDays(FIRST, day + 1);
              const announced = announcedFor === 0 ? null : addDays(date, -announcedFor);
              return item(date, amount, wording, { announced });
            }),
            { format },
          );
          await client.send('POST', `${path}/bank-accounts/${books.bankAccountId}/opening`, {
            date: FIRST,
            amount: account.opening,
          });
          const id = await connect();
          await client.send('PATCH', `${path}/feeds/${id}`, { lookBackDays });
          for (const { days, troubles } of played) {
            bank.today = addDays(bank.today, days);
            bank.troubles.clear();
            // Waiting for a slow bank tells nothing new here.
            for (const name of troubles) if (name !== 'slow') bank.troubles.add(name);
            await fetchNow(id);
          }
          bank.troubles.clear();
          bank.today = addDays(bank.today, 5);
          const last = await fetchNow(id);
          expect(last.result).toMatchObject({ kind: 'fetched', difference: 0 });
          expect(await keptLines()).toEqual(truth(account, FIRST));
          await endFeeds();
        },
      ),
      {
        numRuns: 25,
        examples: [
          [
            [5, 0, 0, 0, 0].map((day) => ({
              day,
              amount: -350 as const,
              wording: 'CORNER OVEN',
              announcedFor: 0 as const,
            })),
            [
              { days: 5, troubles: ['newIds'] },
              { days: 1, troubles: [] },
              { days: 0, troubles: ['expireConsents'] },
              { days: 0, troubles: [] },
            ],
            'camt053',
            2,
          ],
        ],
      },
    );
  }, 900_000);
});
