import type { DeskLines, LinesDone, ScopeProof, SweepSummary } from '@zubrell/contract/desk';
import type { Entry, LedgerRows } from '@zubrell/contract/ledger';
import { sql } from 'drizzle-orm';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { inBooks, rowsOf } from '../../db/database.ts';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { lanes, lineIds, post, undo } = scene;

/** Three posted look-alikes make the next ones Ready; one line stays Blank. */
beforeEach(async () => {
  const phone = (month: string, index: number) => ({
    date: `2026-${month}-05`,
    amount: '-29.00',
    text: `ORRIN BELL ${index}`,
    id: `M${index}`,
  });
  const winter = [phone('01', 1), phone('01', 2), phone('02', 3)];
  await scene.books.keep('winter.ofx', ofxFile(winter, '913.00'));
  await post(await lineIds(), '6030');
  const spring = [
    phone('03', 4),
    { date: '2026-03-06', amount: '-48.50', text: 'TIDEMARK FRT 3', id: 'T' },
    phone('04', 5),
  ];
  await scene.books.keep('spring.ofx', ofxFile(spring, '806.50'));
});

const summary = (query = '') => scene.client.get<SweepSummary>(`${scene.path}/sweep?${query}`);
const unexplained = async () =>
  (await scene.client.get<ScopeProof>(`${scene.path}/proof`)).proof?.unexplained ?? null;

const sweep = (without: readonly string[], { seenStep, seen }: SweepSummary) =>
  scene.client.send<LinesDone>('POST', `${scene.path}/lines/sweep`, {
    scope: {},
    without,
    seenStep,
    seen,
  });

describe('a sweep', () => {
  it('says beforehand what it would do and what it leaves', async () => {
    const found = await summary();
    expect(found).toMatchObject({
      count: 2,
      paidIn: 0,
      paidOut: -5_800,
      accounts: [{ accountId: await scene.books.accountId('6030'), count: 2, total: -5_800 }],
      newPayeeIds: [],
      left: { check: 0, blank: 1, asked: 0, closed: 0 },
    });
    expect(found.largest).toHaveLength(2);
    expect(await summary('from=2026-04-01')).toMatchObject({ count: 1 });
  });

  it('posts each Ready line as proposed, but those taken out, and comes back as one step', async () => {
    const seen = await summary();
    const [taken] = seen.largest;
    const done = await sweep([taken?.id ?? ''], seen);
    expect(done).toMatchObject({ words: 'Swept 1 ready line', leftOut: [] });
    expect(await lanes()).toMatchObject({ ready: 1, blank: 1, posted: 4 });
    expect(await unexplained()).toBe(0);
    await undo();
    expect(await lanes()).toMatchObject({ ready: 2, posted: 3 });
  });

  it('leaves no proposal behind for lines that are open no more, however they went', async () => {
    const proposed = () =>
      inBooks(scene.harness.services.database, scene.books.id, async (tx) => {
        const rows = await rowsOf(
          tx,
          z.object({ description: z.string() }),
          sql`select l.description from proposals p
              join lines l on l.books_id = p.books_id and l.id = p.line_id order by 1`,
        );
        return rows.map(({ description }) => description);
      });
    expect(await proposed()).toEqual(['ORRIN BELL 4', 'ORRIN BELL 5']);
    const [first = ''] = await lineIds('ready');
    await post([first], '6030');
    expect(await proposed()).toHaveLength(1);
    await undo();
    expect(await proposed()).toEqual(['ORRIN BELL 4', 'ORRIN BELL 5']);
    // The step before is the import of these lines.
    await undo();
    expect(await lanes()).toMatchObject({ ready: 0, blank: 0 });
    expect(await proposed()).toEqual([]);
  });

  it('leaves lines alone that somebody changed meanwhile, works on, or has closed', async () => {
    const seen = await summary();
    const [first = '', second = ''] = await lineIds('ready');
    await scene.client.send('PUT', `${scene.path}/lines/${first}/draft`, {
      coding: { payeeId: null, accountId: null, taxCodeId: null, note: 'ask Orrin' },
      version: 0,
    });
    expect(await summary()).toMatchObject({ count: 1 });
    await post([second], '6030');
    await undo();
    await scene.client.send('PUT', `${scene.path}/lines/${second}/draft`, {
      coding: null,
      version: 1,
    });
    const done = await sweep([], seen);
    expect(done).toMatchObject({ done: [], leftOut: [{ lineId: second, code: 'LINE_CHANGED' }] });
    await scene.client.send('PATCH', scene.path, { lockDate: '2026-04-30' });
    expect(await summary()).toMatchObject({ count: 0, left: { closed: 3 } });
  });
});

describe('what became ready after the summary', () => {
  it('is not posted unread', async () => {
    const seen = await summary();
    await scene.books.keep(
      'freight.ofx',
      ofxFile(
        ['07', '08', '09'].map((day) => ({
          date: `2026-04-${day}`,
          amount: '-40.00',
          text: `TIDEMARK FRT ${day}`,
          id: day,
        })),
        '686.50',
      ),
    );
    const freight = await lineIds();
    await post(freight.slice(0, 3), '6010');
    expect(await lanes()).toMatchObject({ ready: 3, blank: 0 });
    const done = await sweep([], { ...seen, seenStep: 1_000 });
    expect(done.done).toHaveLength(2);
    expect(done.leftOut).toMatchObject([{ code: 'LINE_UNREAD' }]);
  });
});

describe('recoding', () => {
  const decided = async () =>
    (await scene.client.get<DeskLines>(`${scene.path}/decided-lines?kind=posted`)).items;
  const recode = (lineIds: readonly string[], change: object) =>
    scene.client.send<LinesDone>('POST', `${scene.path}/lines/recode`, {
      target: { lineIds },
      seenStep: 1e6,
      ...change,
    });

  it('puts new entries in the place of the old, as one step that can be taken back', async () => {
    const ids = (await decided()).map(({ id }) => id);
    const travel = await scene.books.accountId('6080');
    const phones = await scene.books.accountId('6030');
    const done = await recode(ids, {
      accountId: travel,
      taxCodeId: await scene.books.taxCodeId('20 %'),
    });
    expect(done).toMatchObject({ words: 'Recoded 3 lines to 6080 Travel', leftOut: [] });
    const register = (id: string) =>
      scene.client.get<LedgerRows>(`${scene.path}/accounts/${id}/register`);
    expect((await register(phones)).items).toEqual([]);
    const { items } = await register(travel);
    expect(items.map(({ amount }) => amount)).toEqual([2_417, 2_417, 2_417]);
    const entry = await scene.client.get<Entry>(`${scene.path}/entries/${items[0]?.entryId}`);
    expect(entry.legs.map(({ amount }) => amount).sort()).toEqual([2_417, -2_900, 483].sort());
    expect(await unexplained()).toBe(0);
    await undo();
    expect((await register(phones)).items).toHaveLength(3);
    expect((await register(travel)).items).toEqual([]);
    expect(await unexplained()).toBe(0);
  });

  it('leaves what is open alone, and counts what is closed on the first open day', async () => {
    const [blank = ''] = await lineIds();
    const account = { accountId: await scene.books.accountId('6080') };
    expect((await recode([blank], account)).leftOut).toMatchObject([{ code: 'LINE_DECIDED' }]);
    const [newest, ...older] = (await decided()).map(({ id }) => id);
    await scene.client.send('PATCH', scene.path, { lockDate: '2026-01-31' });
    const done = await recode([newest ?? '', ...older], account);
    expect(done.done).toHaveLength(1 + older.length);
    const { items } = await scene.client.get<LedgerRows>(
      `${scene.path}/accounts/${account.accountId}/register`,
    );
    expect(items.filter(({ bankDate }) => bankDate !== null)).toHaveLength(older.length);
    expect(items.every(({ date }) => date > '2026-01-31')).toBe(true);
  });
});

describe('what a decision teaches thousands of look-alikes', () => {
  it('is worked out in the background', async () => {
    const many = Array.from({ length: 2_100 }, (_, index) => ({
      date: '2026-05-05',
      amount: '-1.00',
      text: `SALTER LOCKER ${index}`,
      id: `P${index}`,
    }));
    await scene.books.keep('many.ofx', ofxFile(many, '-1293.50'));
    const [one = '', two = '', three = ''] = await lineIds();
    expect(await lanes()).toMatchObject({ ready: 2, blank: 2_101 });
    await post([one, two, three], '6010');
    await vi.waitFor(async () => expect(await lanes()).toMatchObject({ ready: 2_099, blank: 1 }), {
      timeout: 60_000,
      interval: 100,
    });
  });
});
