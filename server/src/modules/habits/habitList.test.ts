import type { StepDone } from '@zubrell/contract/common';
import type { CodingRecord, Evidence, Habit, Habits } from '@zubrell/contract/habits';
import type { DraftedRule } from '@zubrell/contract/rules';
import { READY_FROM } from '@zubrell/core/propose/habit/lanes';
import { beforeEach, describe, expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { lanes, lineIds, post, undo } = scene;
const get = <T>(path: string) => scene.client.get<T>(`${scene.path}${path}`);
const send = <T>(path: string, body: object) =>
  scene.client.send<T>('POST', `${scene.path}${path}`, body);

let count = 0;
function keep(month: string, lines: readonly (readonly [text: string, amount: string])[]) {
  const made = lines.map(([text, amount], at) => {
    count += 1;
    return { date: `${month}-${String(at + 1).padStart(2, '0')}`, amount, text, id: `L${count}` };
  });
  return scene.books.keep(`${month}.ofx`, ofxFile(made, '0.00'));
}

const habits = async () => (await get<Habits>('/habits')).items;
const clay = ['PENHALLOW CLAY', '-48.50'] as const;

beforeEach(async () => {
  await keep('2026-01', [clay, clay, clay, clay]);
  await post(await lineIds(), '5000');
  await keep('2026-02', [clay]);
});

describe('habits', () => {
  it('are listed with their accounts, their record and what is open', async () => {
    await post(await lineIds('ready'), '5000');
    await keep('2026-03', [clay]);
    expect(await habits()).toMatchObject([
      {
        name: 'Penhallow Clay',
        payeeId: null,
        stems: ['PENHALLOW CLAY'],
        accounts: [{ accountId: await scene.books.accountId('5000'), times: 5 }],
        times: 5,
        looked: 1,
        kept: 1,
        unread: 0,
        open: 1,
        lastDate: '2026-02-01',
      },
    ]);
  });

  it('name what separates their accounts, and turn into a rule with it', async () => {
    const stall = (amount: string) => ['SALTMARSH STALL', amount] as const;
    const small = Array.from({ length: 6 }, () => stall('-12.00'));
    const large = Array.from({ length: 6 }, () => stall('-480.00'));
    await keep('2026-03', small);
    await post(await lineIds('blank'), '6020');
    await keep('2026-04', large);
    await post([...(await lineIds('check')), ...(await lineIds('ready'))], '6040');
    const stalls = (await habits()).find(({ name }) => name === 'Saltmarsh Stall');
    expect(stalls?.separators[0]).toMatchObject({ by: 'amount', limit: 7_589 });
    const accountId = await scene.books.accountId('6040');
    const wanted = { habit: stalls?.key, accountId };
    const { body } = await send<DraftedRule>('/rules/draft', wanted);
    expect(body.takes.conditions).toMatchObject([
      { text: 'saltmarsh stall' },
      { kind: 'amount', from: 7_590, to: null },
    ]);
  });

  it('that are very many come page by page, the largest first, and by name', async () => {
    const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];
    const names = letters.flatMap((one) => letters.slice(0, 12).map((other) => `${one}${other}X`));
    await keep(
      '2026-03',
      names.map((name) => [`KILN${name} YARD${name}`, '-9.00'] as const).slice(0, 28),
    );
    const texts = names.slice(28).map((name) => ({
      date: '2026-04-01',
      amount: '-9.00',
      text: `KILN${name} YARD${name}`,
    }));
    await scene.books.keep('many.ofx', ofxFile(texts, '0.00'));
    const part = {
      accountId: await scene.books.accountId('6010'),
      taxCodeId: null,
      share: { kind: 'rest' },
      tax: null,
    };
    await send('/lines/post', {
      target: { lane: 'blank', scope: {} },
      coding: { payeeId: null, parts: [part], note: null },
      seenStep: 1e6,
    });
    const first = await get<Habits>('/habits');
    expect(first.total).toBe(names.length + 1);
    expect(first.items).toHaveLength(25);
    expect(first.items[0]).toMatchObject({ name: 'Penhallow Clay', times: 4 });
    // Page by page all of them come, each once.
    const keys = new Set(first.items.map(({ key }) => key));
    let { next } = first;
    while (next !== null) {
      const page: Habits = await get<Habits>(`/habits?cursor=${next}`);
      for (const { key } of page.items) keys.add(key);
      next = page.next;
    }
    expect(keys.size).toBe(names.length + 1);
    const found = await get<Habits>('/habits?search=yardzlx');
    expect(found.items.map(({ name, times }) => [name, times])).toEqual([['Kilnzlx Yardzlx', 1]]);
    expect(found).toMatchObject({ total: names.length + 1, next: null });
  });

  it('are forgotten and learned anew, and come back by undo', async () => {
    expect(await lanes()).toMatchObject({ ready: 1 });
    const marking = { kind: 'forgotten', payeeId: null, stems: ['PENHALLOW CLAY'] };
    expect(await send<StepDone>('/habits/marks', marking)).toMatchObject({
      words: 'Forgot the habit of Penhallow Clay',
    });
    expect(await lanes()).toMatchObject({ ready: 0, blank: 1 });
    expect(await habits()).toEqual([]);
    await undo();
    expect(await lanes()).toMatchObject({ ready: 1 });
    await send('/habits/marks', marking);
    await post(await lineIds(), '6010');
    expect(await habits()).toMatchObject([{ times: 1 }]);
  });

  it('that are blocked learn nothing more, until they are let', async () => {
    await send('/habits/marks', { kind: 'blocked', payeeId: null, stems: ['PENHALLOW CLAY'] });
    await post(await lineIds(), '5000');
    await keep('2026-03', [clay]);
    expect(await lanes()).toMatchObject({ blank: 1 });
    const [blocked] = (await habits()) as [Habit];
    expect(blocked).toMatchObject({ name: 'Penhallow Clay', times: 0 });
    await send(`/habits/marks/${blocked.markId}/end`, {});
    expect(await lanes()).toMatchObject({ ready: 1 });
    expect(await habits()).toMatchObject([{ times: 5, markId: null }]);
    await expect(send(`/habits/marks/${blocked.markId}/end`, {})).rejects.toMatchObject({
      details: { code: 'HABIT_UNKNOWN' },
    });
  });

  it('of a payee are marked by the payee', async () => {
    const { id: payeeId } = await send<{ id: string }>('/payees', {
      name: 'Harrow',
      kind: 'supplier',
    });
    await keep('2026-03', [['HARROW YARD 1', '-9.00']]);
    const part = {
      accountId: await scene.books.accountId('6010'),
      taxCodeId: null,
      share: { kind: 'rest' },
      tax: null,
    };
    const coding = { payeeId, parts: [part], note: null };
    const target = { lineIds: await lineIds('blank') };
    await send('/lines/post', { target, coding, seenStep: 1e6 });
    expect((await habits()).map(({ name }) => name)).toEqual(['Penhallow Clay', 'Harrow']);
    expect(
      await send<StepDone>('/habits/marks', { kind: 'blocked', payeeId, stems: [] }),
    ).toMatchObject({
      words: 'Stopped learning from Harrow',
    });
    expect((await habits()).find(({ payeeId: id }) => id === payeeId)).toMatchObject({ times: 0 });
  });

  it('learn nothing from what is coded only this once', async () => {
    const part = {
      accountId: await scene.books.accountId('6010'),
      taxCodeId: null,
      share: { kind: 'rest' },
      tax: null,
    };
    const coding = { payeeId: null, parts: [part], note: null };
    const target = { lineIds: await lineIds('ready') };
    const done = await send<StepDone>('/lines/post', {
      target,
      coding,
      isOnce: true,
      seenStep: 1e6,
    });
    expect(done.words).toBe('Posted 1 line to 6010 Freight out, only this once');
    expect(await habits()).toMatchObject([{ times: 4 }]);
    await keep('2026-03', [clay]);
    expect(await lanes()).toMatchObject({ ready: 1 });
  });
});

describe('what speaks for a proposal', () => {
  it('are decided lines, with how much each says', async () => {
    const [lineId] = await lineIds('ready');
    const { lines } = await get<Evidence>(`/lines/${lineId}/evidence`);
    expect(lines).toHaveLength(4);
    expect(lines.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1);
    expect(new Set(lines.map(({ accountId }) => accountId))).toEqual(
      new Set([await scene.books.accountId('5000')]),
    );
  });
});

describe('the record', () => {
  it('says month by month what each source proposed and what was kept', async () => {
    await post(await lineIds('ready'), '6010');
    const { months, readyFrom } = await get<CodingRecord>('/coding-record');
    expect(months).toEqual([
      { month: '2026-01', source: 'hand', lines: 4, looked: 4, kept: 0, unseen: 0 },
      { month: '2026-02', source: 'habit', lines: 1, looked: 1, kept: 0, unseen: 0 },
    ]);
    expect(readyFrom).toBeCloseTo(READY_FROM, 10);
    expect(readyFrom).toBeLessThan(1);
  });
});
