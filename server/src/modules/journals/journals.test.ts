import type { Board } from '@zubrell/contract/board';
import type { MonthClosing } from '@zubrell/contract/closing';
import type { Made, StepDone } from '@zubrell/contract/common';
import type { JournalPlan, JournalPlans } from '@zubrell/contract/journals';
import type { Entry, LedgerRows } from '@zubrell/contract/ledger';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let rent: string;
let owed: string;

const journal = (part: object = {}) => ({
  name: 'Studio rent accrued',
  payeeId: null,
  note: null,
  legs: [
    { accountId: rent, amount: 60_000 },
    { accountId: owed, amount: -60_000 },
  ],
  rhythm: 'month',
  startDate: '2026-01-31',
  endDate: null,
  isReversing: false,
  ...part,
});
const send = <T>(place: string, body: object, method: 'POST' | 'PUT' = 'POST') =>
  scene.client.send<T>(method, `${mo.path}${place}`, body);
const make = (part: object = {}) => send<Made>('/journal-plans', journal(part));
const post = (...journals: { planId: string; date: string }[]) =>
  send<StepDone>('/journal-plans/post', { journals });
const plan = async (): Promise<JournalPlan> => {
  const { plans } = await scene.client.get<JournalPlans>(`${mo.path}/journal-plans`);
  const [only] = plans;
  if (!only) throw new Error('There is no recurring journal');
  return only;
};
const entry = (id: string) => scene.client.get<Entry>(`${mo.path}/entries/${id}`);
const register = async (accountId: string) =>
  (await scene.client.get<LedgerRows>(`${mo.path}/accounts/${accountId}/register`)).items;
const amounts = async (accountId: string) =>
  (await register(accountId)).map(({ date, amount }) => [date, amount]);

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  rent = await mo.accountId('6010');
  owed = (await mo.account('2900', 'Accrued costs')).id;
});

describe('a recurring journal', () => {
  it('is due on its dates until it is posted or skipped, and then goes on', async () => {
    const { id } = await make();
    expect(await plan()).toMatchObject({
      amount: 60_000,
      due: ['2026-01-31', '2026-02-28', '2026-03-31'],
      next: '2026-04-30',
      posted: [],
    });
    await post({ planId: id, date: '2026-01-31' }, { planId: id, date: '2026-03-31' });
    await send(`/journal-plans/${id}/skip`, { date: '2026-02-28' });
    expect(await plan()).toMatchObject({ due: [], skipped: ['2026-02-28'] });
    expect(await amounts(owed)).toEqual([
      ['2026-03-31', -60_000],
      ['2026-01-31', -60_000],
    ]);
    const [newest] = (await plan()).posted;
    expect((await entry(newest?.entryId ?? '')).plan).toEqual({
      id,
      name: 'Studio rent accrued',
      date: '2026-03-31',
    });
  });

  it('is due again when posting it is undone, and can’t be posted twice by a redo', async () => {
    const { id } = await make({ startDate: '2026-03-31' });
    const first = await post({ planId: id, date: '2026-03-31' });
    await expect(post({ planId: id, date: '2026-03-31' })).rejects.toThrow('JOURNAL_NOT_DUE');
    await mo.undo(first.step);
    expect((await plan()).due).toEqual(['2026-03-31']);
    await post({ planId: id, date: '2026-03-31' });
    await expect(mo.redo(first.step)).rejects.toThrow();
    expect(await amounts(owed)).toEqual([['2026-03-31', -60_000]]);
  });

  it('comes again by undo with its skipped dates, and takes what was posted of it along', async () => {
    const made = await make({ startDate: '2026-02-28' });
    await post({ planId: made.id, date: '2026-02-28' });
    await expect(mo.undo(made.step)).rejects.toThrow('STEP_TOUCHED');
    await send(`/journal-plans/${made.id}/skip`, { date: '2026-03-31' });
    const removed = await send<StepDone>(`/journal-plans/${made.id}/remove`, {});
    await expect(plan()).rejects.toThrow('no recurring journal');
    await mo.undo(removed.step);
    expect(await plan()).toMatchObject({
      skipped: ['2026-03-31'],
      posted: [{ date: '2026-02-28' }],
    });
    await mo.undo(made.step, true);
    expect(await amounts(owed)).toEqual([]);
  });

  it('posts what it says when it is posted, and leaves what was posted before', async () => {
    const { id } = await make({ startDate: '2026-02-28' });
    await post({ planId: id, date: '2026-02-28' });
    const legs = journal().legs.map((leg) => ({ ...leg, amount: leg.amount / 2 }));
    await send(`/journal-plans/${id}`, journal({ startDate: '2026-02-28', legs }), 'PUT');
    await post({ planId: id, date: '2026-03-31' });
    expect(await amounts(owed)).toEqual([
      ['2026-03-31', -30_000],
      ['2026-02-28', -60_000],
    ]);
  });

  it('stays posted while its journal is changed, and is due again once that is none any more', async () => {
    const { id } = await make({ startDate: '2026-03-31' });
    await post({ planId: id, date: '2026-03-31' });
    const change = async (entry: object) => {
      const [last] = (await plan()).posted;
      return send(`/entries/${last?.entryId}`, { entry }, 'PUT');
    };
    const typed = { date: '2026-03-31', note: null, number: null, payeeId: null };
    const legs = journal().legs.map((leg) => ({ ...leg, amount: leg.amount / 2 }));
    await change({ kind: 'journal', ...typed, legs });
    expect(await plan()).toMatchObject({ due: [], posted: [{ date: '2026-03-31' }] });
    const part = { accountId: rent, taxCodeId: null, share: { kind: 'rest' }, tax: null };
    const bankAccountId = scene.books.bankAccountId;
    await change({ kind: 'payment', ...typed, bankAccountId, amount: 30_000, parts: [part] });
    expect(await plan()).toMatchObject({ due: ['2026-03-31'], posted: [] });
  });

  it('is reversed on the first of the next month where it says so', async () => {
    const { id } = await make({ startDate: '2026-03-31', isReversing: true });
    const { step } = await post({ planId: id, date: '2026-03-31' });
    expect(await amounts(owed)).toEqual([
      ['2026-04-01', 60_000],
      ['2026-03-31', -60_000],
    ]);
    await mo.undo(step);
    expect(await amounts(owed)).toEqual([]);
  });

  it('counts on the first open day where its date is closed by then', async () => {
    const { id } = await make({ startDate: '2026-02-28' });
    await mo.settings({ lockDate: '2026-02-28' });
    await post({ planId: id, date: '2026-02-28' });
    expect(await register(owed)).toMatchObject([{ date: '2026-03-01', bankDate: '2026-02-28' }]);
    await expect(make({ startDate: '2026-02-28' })).rejects.toThrow('PERIOD_CLOSED');
    const change = (startDate: string) =>
      send(`/journal-plans/${id}`, journal({ startDate, name: 'Rent' }), 'PUT');
    await expect(change('2026-01-31')).rejects.toThrow('PERIOD_CLOSED');
    await change('2026-02-28');
    expect((await plan()).name).toBe('Rent');
  });

  it.each([
    ['JOURNAL_END_EARLY', () => ({ endDate: '2026-01-30' })],
    [
      'JOURNAL_UNBALANCED',
      () => ({
        legs: [
          { accountId: rent, amount: 2 },
          { accountId: owed, amount: -1 },
        ],
      }),
    ],
    [
      'ENTRY_NIL',
      () => ({
        legs: [
          { accountId: rent, amount: 0 },
          { accountId: owed, amount: 0 },
        ],
      }),
    ],
  ])('is refused with %s', async (code, part) => {
    await expect(make(part())).rejects.toThrow(code);
    expect((await scene.client.get<JournalPlans>(`${mo.path}/journal-plans`)).plans).toEqual([]);
  });

  it('touches no bank account', async () => {
    const bank = (await mo.setup()).bankAccounts[0]?.accountId ?? '';
    const legs = [
      { accountId: rent, amount: 100 },
      { accountId: bank, amount: -100 },
    ];
    await expect(make({ legs })).rejects.toThrow('JOURNAL_ON_BANK');
    const entered = await mo.enter({
      kind: 'journal',
      date: '2026-03-31',
      note: null,
      number: null,
      payeeId: null,
      legs,
    });
    await expect(send(`/entries/${entered.id}/reverse`, { date: '2026-04-01' })).rejects.toThrow(
      'JOURNAL_ON_BANK',
    );
  });

  it('stands on the Board and in the way of closing the month', async () => {
    const { id } = await make({ startDate: '2026-02-28' });
    const board = () => scene.client.get<Board>(`${mo.path}/board`);
    const check = async () =>
      (await scene.client.get<MonthClosing>(`${mo.path}/closings/2026-03`)).checks.find(
        ({ kind }) => kind === 'journals',
      );
    expect((await board()).journals).toEqual({
      due: 2,
      oldest: '2026-02-28',
      next: { name: 'Studio rent accrued', date: '2026-04-30', amount: 60_000 },
    });
    expect(await check()).toMatchObject({ count: 2, amount: 120_000, oldest: '2026-02-28' });
    await post({ planId: id, date: '2026-02-28' }, { planId: id, date: '2026-03-31' });
    expect((await board()).journals).toMatchObject({ due: 0, oldest: null });
    expect(await check()).toMatchObject({ count: 0 });
  });
});

describe('a journal’s reversal', () => {
  const typed = (part: object = {}) => ({
    kind: 'journal',
    date: '2026-03-31',
    note: 'Power for March',
    number: null,
    payeeId: null,
    legs: journal().legs,
    ...part,
  });
  const enter = (reverseOn: string | null = null, part: object = {}) =>
    send<Made>('/entries', { entry: typed(part), reverseOn });

  it('is entered with it, says what it reverses, and goes with it', async () => {
    const { id } = await enter('2026-04-01');
    const { reversedBy } = await entry(id);
    expect(reversedBy).toMatchObject({ date: '2026-04-01' });
    expect(await entry(reversedBy?.id ?? '')).toMatchObject({
      reverses: { id, date: '2026-03-31' },
      note: 'Reversal of Power for March',
    });
    expect(await amounts(rent)).toEqual([
      ['2026-04-01', -60_000],
      ['2026-03-31', 60_000],
    ]);
    const { step } = await mo.voidEntry(id);
    expect(await amounts(rent)).toEqual([]);
    await mo.undo(step);
    expect(await amounts(rent)).toHaveLength(2);
  });

  it('changes with it', async () => {
    const { id } = await enter('2026-04-01');
    const legs = journal().legs.map((leg) => ({ ...leg, amount: leg.amount / 3 }));
    const change = { entry: typed({ legs }), reverseOn: '2026-04-05' };
    await send(`/entries/${id}`, change, 'PUT');
    expect(await amounts(rent)).toEqual([
      ['2026-04-05', -20_000],
      ['2026-03-31', 20_000],
    ]);
    await mo.undo();
    expect(await amounts(rent)).toEqual([
      ['2026-04-01', -60_000],
      ['2026-03-31', 60_000],
    ]);
  });

  it('comes later too, once, and of a closed month', async () => {
    const entered = await enter(null, { date: '2026-02-28' });
    await mo.settings({ lockDate: '2026-02-28' });
    await expect(send(`/entries/${entered.id}/reverse`, { date: '2026-02-28' })).rejects.toThrow(
      'PERIOD_CLOSED',
    );
    const { id } = await send<Made>(`/entries/${entered.id}/reverse`, { date: '2026-03-01' });
    expect(await amounts(rent)).toEqual([
      ['2026-03-01', -60_000],
      ['2026-02-28', 60_000],
    ]);
    const again = send(`/entries/${entered.id}/reverse`, { date: '2026-03-02' });
    await expect(again).rejects.toThrow('ENTRY_REVERSED');
    await expect(send(`/entries/${id}/reverse`, { date: '2026-03-02' })).rejects.toThrow(
      'REVERSAL_NOT_JOURNAL',
    );
  });

  it('is not before it, and only of a journal', async () => {
    await expect(enter('2026-03-30')).rejects.toThrow('REVERSAL_EARLY');
    const part = { accountId: rent, taxCodeId: null, share: { kind: 'rest' }, tax: null };
    const entered = await mo.enter({
      kind: 'cheque',
      date: '2026-03-04',
      amount: 1_200,
      payeeId: null,
      bankAccountId: scene.books.bankAccountId,
      number: '1',
      note: null,
      parts: [part],
    });
    await expect(send(`/entries/${entered.id}/reverse`, { date: '2026-04-01' })).rejects.toThrow(
      'REVERSAL_NOT_JOURNAL',
    );
    expect(await amounts(rent)).toHaveLength(1);
  });

  it('keeps the step of its journal from being undone alone', async () => {
    const entered = await enter();
    await send<Made>(`/entries/${entered.id}/reverse`, { date: '2026-04-01' });
    await expect(mo.undo(entered.step)).rejects.toThrow('STEP_TOUCHED');
    await mo.undo(entered.step, true);
    expect(await amounts(rent)).toEqual([]);
  });
});
