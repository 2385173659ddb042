import type {
  DeskLines,
  LaneCounts,
  LineSheet,
  LinesDone,
  ScopeProof,
  Stack,
} from '@zubrell/contract/desk';
import type { Entry, LedgerRows } from '@zubrell/contract/ledger';
import type { Role } from '@zubrell/core/people/roles';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Client, makeBooks, type TestBooks } from '../../testing/client.ts';
import { ofxFile } from '../../testing/files.ts';
import { startHarness } from '../../testing/harness.ts';
import { joinedAs } from '../../testing/joinedAs.ts';
import type { Harness } from '../../testing/testServer.ts';

let harness: Harness;
let client: Client;
let books: TestBooks;
let path: string;

beforeAll(async () => {
  harness = await startHarness();
  client = await harness.signIn('Mo Oakes');
  books = await makeBooks(client);
  path = `/api/books/${books.id}`;
  await books.keep(
    'winter.ofx',
    ofxFile(
      [
        { date: '2026-01-05', amount: '-29.00', text: 'ORRIN BELL 100% 1' },
        { date: '2026-02-05', amount: '-29.00', text: 'ORRIN BELL 2' },
        { date: '2026-02-10', amount: '-12.00', text: 'GLAZEWORKS ONLINE' },
        { date: '2026-03-05', amount: '-48.50', text: 'TIDEMARK FRT 3' },
        { date: '2026-03-06', amount: '640.00', text: 'NETTLE AND THREAD' },
        { date: '2026-03-06', amount: '-640.00', text: 'NETTLE AND THREAD' },
      ],
      '881.50',
    ),
  );
});
afterAll(() => harness.stop());

const lanes = (query = '') => client.get<LaneCounts>(`${path}/lanes?${query}`);
const stacks = async (query: string) =>
  (await client.get<{ stacks: Stack[] }>(`${path}/stacks?${query}`)).stacks;
const proof = async (query = '') => (await client.get<ScopeProof>(`${path}/proof?${query}`)).proof;

async function lineIds(key: string, direction = 'out'): Promise<string[]> {
  const { lines } = await client.get<{ lines: { id: string }[] }>(
    `${path}/stack-lines?lane=blank&grouping=lookAlikes&direction=${direction}` +
      `&key=${encodeURIComponent(key)}`,
  );
  return lines.map(({ id }) => id);
}

async function post(ids: readonly string[], code: string, tax: string | null): Promise<LinesDone> {
  return client.send('POST', `${path}/lines/post`, {
    target: { lineIds: ids },
    coding: {
      payeeId: null,
      parts: [
        {
          accountId: await books.accountId(code),
          taxCodeId: tax === null ? null : await books.taxCodeId(tax),
          share: { kind: 'rest' },
          tax: null,
        },
      ],
      note: 'as agreed',
    },
    seenStep: 1_000,
  });
}

const exclude = (ids: readonly string[], reason: string) =>
  client.send<LinesDone>('POST', `${path}/lines/exclude`, {
    target: { lineIds: ids },
    reason,
    as: 'excluded',
    seenStep: 1_000,
  });

describe('the scope', () => {
  it('counts what is inside, and says what is open outside', async () => {
    expect(await lanes()).toMatchObject({ blank: 6, ready: 0, posted: 0, openOutside: 0 });
    expect(await lanes('from=2026-02-01&to=2026-02-28')).toMatchObject({
      blank: 2,
      openOutside: 4,
    });
    expect(await lanes(`bankAccountId=${books.bankAccountId}`)).toMatchObject({ blank: 6 });
    expect(await lanes(`bankAccountId=${books.id}`)).toMatchObject({ blank: 0, openOutside: 6 });
  });

  it.each([
    ['bell', 2],
    ['BELL 100%25', 1],
    ['29', 2],
    ['640.00', 2],
    ['%3E500', 2],
    ['%3C20', 1],
    ['20..50', 3],
    ['_', 0],
    ['nothing like it', 0],
  ])('searches %s', async (search, count) => {
    expect((await lanes(`search=${search}`)).blank).toBe(count);
  });

  it('groups by look-alikes and direction, by date, by payee', async () => {
    const alike = await stacks('lane=blank&grouping=lookAlikes');
    expect(alike.map(({ key, direction, count }) => `${key} ${direction} ${count}`)).toEqual([
      'ORRIN BELL out 2',
      'NETTLE AND THREAD in 1',
      'NETTLE AND THREAD out 1',
      'TIDEMARK FRT out 1',
      'GLAZEWORKS ONLINE out 1',
    ]);
    const byDate = await stacks('lane=blank&grouping=date&from=2026-03-01');
    expect(byDate.map(({ key }) => key)).toEqual(['2026-03-05', '2026-03-06', '2026-03-06']);
    expect(await stacks('lane=blank&grouping=payee')).toMatchObject([
      { key: '', direction: 'out', count: 5, smallest: 1200, largest: 64000 },
      { key: '', direction: 'in', count: 1 },
    ]);
  });
});

describe('posting', () => {
  it('makes one entry a line, with tax on the side of the account', async () => {
    const [line = ''] = await lineIds('GLAZEWORKS ONLINE');
    await post([line], '5000', 'Reverse charge 20 %');
    const sheet = await client.get<LineSheet>(`${path}/lines/${line}`);
    expect(sheet).toMatchObject({ decision: { kind: 'posted' }, proposal: null, draft: null });
    const entry = await client.get<Entry>(`${path}/entries/${sheet.entryId}`);
    expect(entry).toMatchObject({
      date: '2026-02-10',
      note: 'as agreed',
      isVoid: false,
      lines: [{ id: line, amount: -1200 }],
    });
    expect(entry.legs.map(({ amount, role }) => [role, amount])).toEqual([
      ['bank', -1200],
      ['base', 1200],
      ['tax', 240],
      ['tax', -240],
    ]);
    expect(sheet.history.map(({ words }) => words)).toEqual([
      'Posted 1 line to 5000 Materials',
      expect.stringContaining(
        'Imported 6 lines from winter.ofx into Everyday, with the opening balance',
      ),
    ]);
  });

  it('is answered line for line: what was left out is named', async () => {
    const [first = '', second = ''] = await lineIds('ORRIN BELL');
    await post([first], '6030', '20 %');
    const done = await post([first, second, books.id], '6030', '20 %');
    expect(done.done).toEqual([second]);
    expect(done.leftOut.map(({ lineId, code }) => [lineId, code])).toEqual([
      [first, 'LINE_DECIDED'],
      [books.id, 'LINE_UNKNOWN'],
    ]);
  });

  it('refuses an account switched off, a bank account, and what is not in the books', async () => {
    const ids = await lineIds('TIDEMARK FRT');
    await harness.database.transaction(async (tx) => {
      await tx.execute(sql`select set_config('app.books_id', ${books.id}, true)`);
      await tx.execute(sql`update accounts set is_on = false where code = '6090'`);
    });
    await expect(post(ids, '6090', null)).rejects.toThrow('ACCOUNT_OFF: The account 6090 Repairs');
    await expect(post(ids, '1010', null)).rejects.toThrow('TRANSFER_SELF');
    const foreign = client.send('POST', `${path}/lines/post`, {
      target: { lineIds: ids },
      coding: {
        payeeId: books.id,
        parts: [
          {
            accountId: await books.accountId('6010'),
            taxCodeId: null,
            share: { kind: 'rest' },
            tax: null,
          },
        ],
        note: null,
      },
      seenStep: 1_000,
    });
    await expect(foreign).rejects.toThrow('PAYEE_UNKNOWN');
    expect(await lineIds('TIDEMARK FRT')).toEqual(ids);
  });

  it('posts a line once, however many press at the same time', async () => {
    const ids = await lineIds('TIDEMARK FRT');
    const all = await Promise.all([1, 2, 3, 4].map(() => post(ids, '6010', '20 %')));
    expect(all.filter(({ done }) => done.length === 1)).toHaveLength(1);
    expect(await proof()).toMatchObject({ openCount: 2, unexplained: 0 });
  });
});

describe('excluding', () => {
  it('takes only lines before the opening balance as such', async () => {
    const ids = await lineIds('NETTLE AND THREAD', 'in');
    const { done, leftOut } = await exclude(ids, 'beforeOpening');
    expect(done).toEqual([]);
    expect(leftOut).toMatchObject([{ code: 'EXCLUDE_NOT_BEFORE' }]);
  });

  it('of a bank error and its correction keeps both in the proof', async () => {
    const before = await proof();
    const ids = [
      ...(await lineIds('NETTLE AND THREAD', 'in')),
      ...(await lineIds('NETTLE AND THREAD')),
    ];
    const [wrong = ''] = ids;
    const half = await exclude([wrong], 'bankError');
    expect(half).toMatchObject({ done: [], leftOut: [{ code: 'EXCLUDE_NOT_ZERO' }] });
    expect(await proof()).toMatchObject({ keptOut: 0, keptOutCount: 0, unexplained: 0 });
    await exclude(ids, 'bankError');
    expect(await proof()).toMatchObject({
      bank: before?.bank,
      keptOut: 0,
      keptOutCount: 2,
      openCount: 0,
      unexplained: 0,
    });
  });
});

describe('what is decided', () => {
  it('is listed newest first, by kind', async () => {
    const list = (kind: string) =>
      client.get<DeskLines>(`${path}/decided-lines?${kind === '' ? '' : `kind=${kind}`}`);
    const all = await list('');
    expect(all.items.map(({ date }) => date)).toEqual(
      [...all.items.map(({ date }) => date)].sort().reverse(),
    );
    expect(all.items).toHaveLength(6);
    expect((await list('excluded')).items).toHaveLength(2);
    expect((await list('posted')).items).toHaveLength(4);
  });

  it('stands in the register with the balance after each entry', async () => {
    const bank = await books.accountId('1010');
    const { items } = await client.get<LedgerRows>(`${path}/accounts/${bank}/register`);
    let balance = 0;
    for (const row of [...items].reverse()) {
      balance += row.amount;
      expect(row.balance).toBe(balance);
    }
    expect(items.at(-1)).toMatchObject({ text: 'Opening balance of Everyday', amount: 100000 });
  });
});

describe('the proof', () => {
  it('holds on every day of the books', async () => {
    for (const day of ['2026-01-04', '2026-01-31', '2026-02-10', '2026-03-05', '2026-12-31']) {
      expect([day, (await proof(`to=${day}`))?.unexplained]).toEqual([day, 0]);
    }
    expect(await proof('to=2026-02-28')).toMatchObject({ bank: 93000, isStated: false });
    expect(await proof('to=2026-03-06')).toMatchObject({ bank: 88150, isStated: true });
  });

  it('shows a line that is missing as unexplained, to the cent', async () => {
    const april = ofxFile(
      [{ date: '2026-04-01', amount: '-10.00', text: 'SALTER LOCKER 1', id: 'P' }],
      '861.50',
    );
    await books.keep('april.ofx', april);
    expect(await proof()).toMatchObject({ unexplained: -1000, isStated: true });
  });
});

describe('roles', () => {
  it('let a reviewer look and not change, and a client do neither', async () => {
    const join = (name: string, role: Role) => joinedAs({ harness, client, books }, name, role);
    const reviewer = await join('Rae Viewer', 'reviewer');
    expect(await reviewer.get<LaneCounts>(`${path}/lanes`)).toMatchObject({ posted: 4 });
    const wanted = { name: 'Not mine to make', kind: 'other' };
    await expect(reviewer.send('POST', `${path}/payees`, wanted)).rejects.toThrow('ROLE_TOO_LOW');
    const bookkeeper = await join('Kip Books', 'bookkeeper');
    await expect(bookkeeper.send('PATCH', path, { lockDate: null })).rejects.toThrow(
      'ROLE_TOO_LOW: As bookkeeper',
    );
    const answering = await join('Cal Lient', 'client');
    await expect(answering.get(`${path}/lanes`)).rejects.toThrow('ROLE_TOO_LOW');
  });
});

describe('a line that came in through the wrong bank account', () => {
  it('moves to the right one, weighs nothing in the wrong one, and comes back', async () => {
    const own = await makeBooks(client);
    const place = `/api/books/${own.id}`;
    const { id: card } = await client.send<{ id: string }>('POST', `${place}/bank-accounts`, {
      name: 'Studio card',
      kind: 'card',
      bank: null,
      number: null,
    });
    const files = [
      { date: '2026-03-01', amount: '-10.00', text: 'KILN PARTS', id: 'K' },
      { date: '2026-03-02', amount: '-4.80', text: 'CORNER OVEN', id: 'C' },
    ];
    const march = ofxFile(files, '990.00');
    await own.keep('march.ofx', march);
    const unexplained = async () =>
      (await client.get<ScopeProof>(`${place}/proof?bankAccountId=${own.bankAccountId}`)).proof
        ?.unexplained;
    const found = await client.get<{ lines: { id: string }[] }>(
      `${place}/stack-lines?lane=blank&grouping=lookAlikes&direction=out&key=CORNER%20OVEN`,
    );
    const before = await unexplained();
    const done = await client.send<LinesDone>('POST', `${place}/lines/move`, {
      target: { lineIds: found.lines.map(({ id }) => id) },
      bankAccountId: card,
      seenStep: 1_000,
    });
    expect(done).toMatchObject({ words: 'Moved 1 line to Studio card', leftOut: [] });
    const counts = (account: string) =>
      client.get<LaneCounts>(`${place}/lanes?bankAccountId=${account}`);
    expect(await counts(card)).toMatchObject({ blank: 1 });
    expect(await counts(own.bankAccountId)).toMatchObject({ blank: 1, excluded: 1 });
    expect((await unexplained()) ?? 0).toBe((before ?? 0) - 480);
    expect(await own.keep('again.ofx', march)).toMatchObject({ newCount: 0 });
    await client.send('POST', `${place}/steps/undo`, { step: done.step, withLater: false });
    expect(await counts(card)).toMatchObject({ blank: 0 });
    expect(await counts(own.bankAccountId)).toMatchObject({ blank: 2, excluded: 0 });
  });
});

describe('cost centres and jobs', () => {
  it('stand on the legs of what is coded to them, and can’t be unmade while in use', async () => {
    const own = await makeBooks(client);
    const place = `/api/books/${own.id}`;
    const make = (kind: string, name: string) =>
      client.send<{ id: string; step: number }>('POST', `${place}/cost-objects`, { kind, name });
    const { id: costCentreId } = await make('costCentre', 'Market stall');
    const job = await make('job', 'Dinner service for Marlstone');
    await expect(make('job', 'dinner service for marlstone')).rejects.toThrow('COST_OBJECT_TAKEN');
    const clay = [{ date: '2026-03-01', amount: '-12.00', text: 'CLAY', id: 'C' }];
    await own.keep('march.ofx', ofxFile(clay, '988.00'));
    const target = {
      stack: { grouping: 'lookAlikes', key: 'CLAY', direction: 'out' },
      lane: 'blank',
      scope: {},
    };
    const accountId = await own.accountId('5000');
    const send = (objects: object) => {
      const part = { accountId, taxCodeId: null, share: { kind: 'rest' }, tax: null, ...objects };
      const coding = { payeeId: null, parts: [part], note: null };
      return client.send<LinesDone>('POST', `${place}/lines/post`, {
        target,
        coding,
        seenStep: 1_000,
      });
    };
    await expect(send({ costCentreId: job.id })).rejects.toThrow('COST_OBJECT_UNKNOWN');
    await send({ costCentreId, jobId: job.id, isRecharged: true });
    const { items } = await client.get<LedgerRows>(`${place}/accounts/${accountId}/register`);
    const entry = await client.get<Entry>(`${place}/entries/${items[0]?.entryId}`);
    expect(entry.legs.find((leg) => leg.accountId === accountId)).toMatchObject({
      costCentreId,
      jobId: job.id,
      isRecharged: true,
    });
    await expect(
      client.send('POST', `${place}/steps/undo`, { step: job.step, withLater: false }),
    ).rejects.toThrow('Posted 1 line to 5000 Materials');
    await client.send('POST', `${place}/steps/undo`, { step: null, withLater: false });
    const { stacks: waiting } = await client.get<{ stacks: Stack[] }>(
      `${place}/stacks?lane=blank&grouping=lookAlikes`,
    );
    expect(waiting[0]?.draft).toMatchObject({ costCentreId, jobId: job.id, isRecharged: true });
  });
});
