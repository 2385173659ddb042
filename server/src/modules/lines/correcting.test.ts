import type { Coding } from '@zubrell/contract/coding';
import type { Decided, DecidedSum, DeskLines, LinesDone, StepLines } from '@zubrell/contract/desk';
import type { LineId } from '@zubrell/core/ids';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

const SEEN = { seenStep: 1e6 };

const scene = setScene();
let mo: Bookkeeper;
let everyday: string;

beforeEach(() => {
  mo = bookkeeper(scene.client, scene.books.id);
  everyday = scene.books.bankAccountId;
});

const send = <Answer = LinesDone>(path: string, body: object): Promise<Answer> =>
  scene.client.send<Answer>('POST', `${mo.path}${path}`, body);
const line = async (amount: number, text: string, date = '2026-03-10') =>
  (await mo.addLine(everyday, date, amount, text)).id;
const ask = (decided: Decided) =>
  new URLSearchParams(
    Object.entries(decided).map(([name, value]): [string, string] => [name, String(value)]),
  ).toString();
const found = async (decided: Decided): Promise<string[]> => {
  const { items } = await scene.client.get<DeskLines>(`${mo.path}/decided-lines?${ask(decided)}`);
  return items.map(({ description }) => description).sort();
};
const sum = (decided: Decided) =>
  scene.client.get<DecidedSum>(`${mo.path}/decided-lines/sum?${ask(decided)}`);
const stepLines = (step: number | null) =>
  scene.client.get<StepLines>(`${mo.path}/steps/${step}/lines`);
const codingOf = async (id: LineId) => (await mo.line(id)).decision?.coding ?? null;
const undo = (step: number | null) => send<object>('/steps/undo', { step, withLater: false });

async function split(id: LineId, codes: readonly [string, string]): Promise<void> {
  const [first, second] = await Promise.all(codes.map(mo.accountId));
  const part = { taxCodeId: null, tax: null };
  const coding: Coding = {
    payeeId: null,
    note: null,
    parts: [
      { ...part, accountId: first ?? '', share: { kind: 'fixed', amount: -4_000 } },
      { ...part, accountId: second ?? '', share: { kind: 'rest' } },
    ],
  };
  await mo.post([id], coding);
}

describe('decided lines', () => {
  it('are found by what was decided, how and by which step, and summed up', async () => {
    const [clay, glaze, stall, open] = [
      await line(-4_000, 'CLAY'),
      await line(-2_500, 'GLAZE', '2026-03-12'),
      await line(9_900, 'STALL'),
      await line(-100, 'LEFT OPEN'),
    ];
    const penhallow = (await mo.payee('Penhallow Clay')).id;
    const [materials, sales] = [await mo.accountId('5000'), await mo.accountId('4010')];
    const taxCodeId = (await mo.setup()).taxCodes.find(({ name }) => name === '20 %')?.id ?? null;
    const bought = await mo.post([clay, glaze], mo.codingTo(materials, penhallow));
    await mo.post([stall], mo.codingTo(sales, null, taxCodeId));
    expect(await found({})).toEqual(['CLAY', 'GLAZE', 'STALL']);
    expect(await found({ accountId: materials })).toEqual(['CLAY', 'GLAZE']);
    expect(await found({ accountId: materials, search: '25.00' })).toEqual(['GLAZE']);
    expect(await found({ payeeId: penhallow, to: '2026-03-11' })).toEqual(['CLAY']);
    expect(await found({ taxCodeId: taxCodeId ?? '' })).toEqual(['STALL']);
    expect(await found({ step: bought.step ?? 0 })).toEqual(['CLAY', 'GLAZE']);
    expect(await found({ way: 'stack' })).toEqual(['CLAY', 'GLAZE']);
    expect(await found({ way: 'line', by: 'hand' })).toEqual(['STALL']);
    expect(await found({ by: 'rule' })).toEqual([]);
    expect(await found({ stem: [(await mo.line(clay)).stem] })).toEqual(['CLAY']);
    expect(await sum({ accountId: materials })).toEqual({
      count: 2,
      total: -6_500,
      currency: 'EUR',
    });
    const { userId } = (await scene.client.get<{ items: { userId: string }[] }>(`${mo.path}/steps`))
      .items[0] ?? { userId: '' };
    expect((await sum({ userId })).count).toBe(3);
    expect((await sum({ userId: crypto.randomUUID() })).count).toBe(0);
    expect((await mo.line(open)).decision).toBeNull();
  });

  it('are recoded all that match, parts of splits on that account too, as one step', async () => {
    const [plain, cut, other] = [
      await line(-4_000, 'CLAY'),
      await line(-10_000, 'CLAY AND POST'),
      await line(-700, 'STAMPS'),
    ];
    await mo.post([plain], mo.codingTo(await mo.accountId('5000')));
    await split(cut, ['5000', '6070']);
    await mo.post([other], mo.codingTo(await mo.accountId('6070')));
    const [from, to] = [await mo.accountId('5000'), await mo.accountId('6020')];
    const done = await send('/lines/recode', {
      target: { decided: { accountId: from } },
      accountId: to,
      fromAccountId: from,
      note: 'tools, not clay',
      ...SEEN,
    });
    expect(done).toMatchObject({ words: expect.stringContaining('Recoded 2 lines to 6020') });
    expect([await mo.balance('5000'), await mo.balance('6020'), await mo.balance('6070')]).toEqual([
      0, 8_000, 6_700,
    ]);
    expect(await codingOf(cut)).toMatchObject({ note: 'tools, not clay' });
    await undo(done.step);
    expect([await mo.balance('5000'), await mo.balance('6020')]).toEqual([8_000, 0]);
  });

  it('that the change does not fit are named and stay', async () => {
    const [cut, other] = [await line(-10_000, 'CLAY AND POST'), await line(-700, 'STAMPS')];
    await split(cut, ['5000', '6070']);
    await mo.post([other], mo.codingTo(await mo.accountId('6070')));
    const change = { accountId: await mo.accountId('6020') };
    const whole = await mo.recode([cut, other], change);
    expect(whole).toMatchObject({
      done: [other],
      leftOut: [{ lineId: cut, code: 'RECODE_SPLIT' }],
    });
    const parts = { ...change, fromAccountId: await mo.accountId('5000') };
    expect(await mo.recode([other], parts)).toMatchObject({
      step: null,
      leftOut: [{ code: 'RECODE_ELSEWHERE' }],
    });
    // Payee and note fit every line.
    const { id: payeeId } = await mo.payee('Kelpie Post');
    expect(await mo.recode([cut, other], { payeeId })).toMatchObject({ leftOut: [] });
    expect(await codingOf(cut)).toMatchObject({ payeeId, parts: [{}, {}] });
  });

  it('are reopened all that match', async () => {
    const ids = [await line(-4_000, 'CLAY'), await line(-2_500, 'GLAZE')];
    const accountId = await mo.accountId('5000');
    await mo.post(ids, mo.codingTo(accountId));
    const done = await send('/lines/reopen', { target: { decided: { accountId } }, ...SEEN });
    expect(done.words).toBe('Reopened 2 lines');
    expect(await found({})).toEqual([]);
  });
});

describe('posted second copies', () => {
  it('are excluded in one step that undo takes back whole', async () => {
    const [first, copy] = [await line(-4_000, 'CLAY'), await line(-4_000, 'CLAY AGAIN')];
    const lone = await line(-9_000, 'KILN');
    const accountId = await mo.accountId('5000');
    await mo.post([first, copy, lone], mo.codingTo(accountId));
    const target = { lineIds: [copy, lone] };
    const done = await send('/decided-lines/exclude', {
      target,
      reason: 'secondCopy',
      as: 'excluded',
      originals: { [copy]: first },
      ...SEEN,
    });
    expect(done).toMatchObject({
      done: [copy],
      leftOut: [{ lineId: lone, code: 'EXCLUDE_NO_ORIGINAL' }],
    });
    expect(await mo.balance('5000')).toBe(13_000);
    expect((await mo.line(copy)).decision).toMatchObject({ kind: 'excluded' });
    expect((await mo.line(lone)).decision).toMatchObject({ kind: 'posted' });
    await undo(done.step);
    expect(await mo.balance('5000')).toBe(17_000);
    expect((await mo.line(copy)).decision).toMatchObject({ kind: 'posted' });
  });

  it('stay posted where none of them has an original', async () => {
    const lone = await line(-9_000, 'KILN');
    await mo.post([lone], mo.codingTo(await mo.accountId('5000')));
    const done = await send('/decided-lines/exclude', {
      target: { decided: { kind: 'posted' } },
      reason: 'secondCopy',
      as: 'deleted',
      ...SEEN,
    });
    expect(done).toMatchObject({ step: null, done: [], leftOut: [{ lineId: lone }] });
    expect(await mo.balance('5000')).toBe(9_000);
  });

  it('leave what was decided together with them open', async () => {
    const [paid, other, first] = [
      await line(-3_000, 'RAVENSBY 1'),
      await line(-2_000, 'RAVENSBY 2'),
      await line(-3_000, 'RAVENSBY'),
    ];
    const { id: payeeId } = await mo.payee('Ravensby');
    const lines = [
      {
        text: '',
        accountId: await mo.accountId('5000'),
        taxCodeId: null,
        amount: 5_000,
        tax: null,
      },
    ];
    const bill = await mo.document({
      kind: 'bill',
      side: 'payables',
      number: '1',
      payeeId,
      date: '2026-03-01',
      dueDate: null,
      note: null,
      lines,
    });
    await mo.pair([paid, other], [bill.id]);
    const done = await send('/decided-lines/exclude', {
      target: { lineIds: [paid] },
      reason: 'secondCopy',
      as: 'excluded',
      originals: { [paid]: first },
      ...SEEN,
    });
    expect(done).toMatchObject({ done: [paid], leftOut: [] });
    expect((await mo.line(paid)).decision).toMatchObject({ kind: 'excluded' });
    expect((await mo.line(other)).decision).toBeNull();
    await undo(done.step);
    for (const id of [paid, other]) {
      expect((await mo.line(id)).decision).toMatchObject({ kind: 'paired' });
    }
    // The reason isn't true of the other one: both stay as they are, and it ends.
    const refused = await send('/decided-lines/exclude', {
      target: { lineIds: [other] },
      reason: 'secondCopy',
      as: 'excluded',
      ...SEEN,
    });
    expect(refused).toMatchObject({ step: null, leftOut: [{ lineId: other }] });
    expect((await mo.line(paid)).decision).toMatchObject({ kind: 'paired' });
  });

  it('that nobody knows are named, and no step is made of nothing', async () => {
    const lineId = crypto.randomUUID();
    const target = { lineIds: [lineId] };
    const unknown = { step: null, leftOut: [{ lineId, code: 'LINE_UNKNOWN' }] };
    const excluded = { target, reason: 'secondCopy', as: 'excluded', ...SEEN };
    expect(await send('/decided-lines/exclude', excluded)).toMatchObject(unknown);
    expect(await send('/lines/reopen', { target, ...SEEN })).toMatchObject(unknown);
  });
});

describe('some lines of a step', () => {
  it('are taken back by themselves, and come again when that is undone', async () => {
    const ids = [await line(-1_000, 'ONE'), await line(-2_000, 'TWO'), await line(-3_000, 'THREE')];
    const posted = await mo.post(ids, mo.codingTo(await mo.accountId('5000')));
    const [one = '', two = ''] = ids;
    const done = await send(`/steps/${posted.step}/lines/undo`, { lineIds: [one] });
    expect(done).toMatchObject({
      words: `Undid 1 line of 3 of step ${posted.step}: ${posted.words}`,
      done: [one],
    });
    expect(await mo.balance('5000')).toBe(5_000);
    const listed = await stepLines(posted.step);
    expect(listed).toMatchObject({ count: 3 });
    expect(listed.lines.filter(({ isStanding }) => !isStanding).map(({ id }) => id)).toEqual([one]);
    const again = await send(`/steps/${posted.step}/lines/undo`, { lineIds: [one, two] });
    expect(again).toMatchObject({ done: [two], leftOut: [{ code: 'LINE_DECIDED_SINCE' }] });
    await undo(again.step);
    await undo(done.step);
    expect(await mo.balance('5000')).toBe(6_000);
    // The step itself can still be undone whole.
    await undo(posted.step);
    expect(await mo.balance('5000')).toBe(0);
  });

  it('go back to what they were coded to before', async () => {
    const ids = [await line(-1_000, 'ONE'), await line(-2_000, 'TWO')];
    await mo.post(ids, mo.codingTo(await mo.accountId('5000')));
    const recoded = await mo.recode(ids, { accountId: await mo.accountId('6020') });
    const [one = ''] = ids;
    await send(`/steps/${recoded.step}/lines/undo`, { lineIds: [one] });
    expect([await mo.balance('5000'), await mo.balance('6020')]).toEqual([1_000, 2_000]);
  });

  it('are not taken back of a step that was undone', async () => {
    const id = await line(-1_000, 'ONE');
    const posted = await mo.post([id], mo.codingTo(await mo.accountId('5000')));
    await undo(posted.step);
    await expect(send(`/steps/${posted.step}/lines/undo`, { lineIds: [id] })).rejects.toThrow(
      'STEP_UNDONE',
    );
  });
});
