import type { Board, SinceVisit } from '@zubrell/contract/board';
import type { CodingRecord } from '@zubrell/contract/habits';
import { sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { inBooks } from '../../db/database.ts';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();

const visit = () => scene.client.send<SinceVisit>('POST', `${scene.path}/visit`, {});
const board = () => scene.client.get<Board>(`${scene.path}/board`);

/** Behind the program's back, as if somebody had been here so long ago. */
const wasHere = (ago: string) =>
  inBooks(scene.harness.services.database, scene.books.id, (tx) =>
    tx.execute(sql`update memberships set seen_at = seen_at - ${ago}::interval
      where books_id = ${scene.books.id}`),
  );

const line = (day: string, amount: string) => ({
  date: `2026-03-${day}`,
  amount,
  text: 'PENHALLOW CLAY',
  id: `${day} ${amount}`,
});

describe('a visit', () => {
  it('lasts until its reader was away for an hour, and tells nothing of their own steps', async () => {
    expect(await visit()).toMatchObject({ at: null, people: [] });
    await scene.books.keep('a.ofx', ofxFile([line('01', '-10.00')], '990.00'));
    await wasHere('20 minutes');
    expect(await visit()).toMatchObject({ at: null, people: [] });
    await wasHere('2 hours');
    const back = await visit();
    expect(back).toMatchObject({ people: [], came: { lines: 0, batches: 0 }, answers: 0 });
    expect(back.at).not.toBeNull();
    // As long as they stay, it is told since when they were away.
    expect((await visit()).at).toBe(back.at);
  });
});

describe('the record of work', () => {
  it('counts keys and clicks by line, corrections too, and what nobody touched', async () => {
    await scene.books.keep(
      'a.ofx',
      ofxFile([line('01', '-10.00'), line('02', '-20.00')], '970.00'),
    );
    const lineIds = await scene.lineIds();
    const part = {
      accountId: await scene.books.accountId('6030'),
      taxCodeId: null,
      share: { kind: 'rest' },
      tax: null,
    };
    const post = async (presses: string, ids: readonly string[]) => {
      const answer = await scene.harness.app.inject({
        method: 'POST',
        url: `${scene.path}/lines/post`,
        headers: { cookie: scene.client.cookie, 'x-presses': presses },
        payload: {
          target: { lineIds: ids },
          coding: { payeeId: null, parts: [part], note: null },
          seenStep: 1e6,
        },
      });
      expect(answer.statusCode).toBe(200);
    };
    const work = async () =>
      (await scene.client.get<CodingRecord>(`${scene.path}/coding-record`)).work;
    await post('6', lineIds);
    expect(await work()).toEqual([{ month: '2026-03', lines: 2, untouched: 0, presses: 3 }]);
    await scene.client.send('POST', `${scene.path}/lines/reopen`, {
      target: { lineIds: lineIds.slice(0, 1) },
      seenStep: 1e6,
    });
    await post('2', lineIds.slice(0, 1));
    expect(await work()).toEqual([{ month: '2026-03', lines: 2, untouched: 0, presses: 4 }]);
    // What is no number of presses is left out.
    await scene.client.send('POST', `${scene.path}/lines/reopen`, {
      target: { lineIds },
      seenStep: 1e6,
    });
    await post('many', lineIds);
    expect(await work()).toEqual([{ month: '2026-03', lines: 2, untouched: 0, presses: 4 }]);
    // What one step took counts for the months of its lines, by how many they are.
    const april = { ...line('03', '-30.00'), date: '2026-04-02' };
    const march = [line('04', '-31.00'), line('05', '-32.00')];
    await scene.books.keep('b.ofx', ofxFile([...march, april], '907.00'));
    const open = await Promise.all(['ready', 'check', 'blank'].map((lane) => scene.lineIds(lane)));
    await post('6', open.flat());
    expect(await work()).toEqual([
      { month: '2026-03', lines: 4, untouched: 0, presses: 3 },
      { month: '2026-04', lines: 1, untouched: 0, presses: 2 },
    ]);
  });
});

describe('what is due', () => {
  it('is what is to be paid within two weeks, and the oldest month that can be closed', async () => {
    expect((await board()).due).toMatchObject({
      billsOverdue: { count: 0, total: 0 },
      month: null,
    });
    const { id: payeeId } = await scene.client.send<{ id: string }>(
      'POST',
      `${scene.path}/payees`,
      { name: 'Penhallow Clay', kind: 'supplier' },
    );
    const part = { accountId: await scene.books.accountId('5000'), taxCodeId: null, tax: null };
    const today = scene.harness.services.clock.today();
    const bill = (number: string, dueDate: string, amount: number) =>
      scene.client.send('POST', `${scene.path}/documents`, {
        kind: 'bill',
        side: 'payables',
        payeeId,
        date: '2026-01-02',
        dueDate,
        number,
        lines: [{ ...part, amount, text: 'Clay' }],
        note: null,
      });
    await bill('1', '2026-01-31', 12_000);
    await bill('2', today, 5_000);
    await scene.books.keep(
      'a.ofx',
      ofxFile([{ ...line('01', '-10.00'), date: '2026-01-05' }], '990.00'),
    );
    expect((await board()).due).toMatchObject({
      billsOverdue: { count: 1, total: 12_000 },
      billsSoon: { count: 1, total: 5_000 },
      invoicesOverdue: { count: 0, total: 0 },
      month: '2026-01',
      tax: null,
    });
  });
});
