import { screen, waitFor, within } from '@testing-library/react';
import type { JournalPlan } from '@zubrell/contract/journals';
import type { Entry } from '@zubrell/contract/ledger';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { EntrySheet } from './EntrySheet.tsx';
import { completePlan, emptyPlan, planStartOf } from './planDraft.ts';
import { RecurringPage } from './RecurringPage.tsx';

const legs = [
  { accountId: '6010', amount: 18_000 },
  { accountId: '1500', amount: -18_000 },
];
const plan = (id: string, more: Partial<JournalPlan> = {}): JournalPlan => ({
  id,
  name: id,
  payeeId: null,
  note: null,
  legs,
  rhythm: 'month',
  startDate: '2026-01-31',
  endDate: null,
  isReversing: false,
  amount: 18_000,
  due: [],
  next: '2026-04-30',
  skipped: [],
  posted: [],
  ...more,
});
const KILNS = plan('Kilns', { due: ['2026-02-28', '2026-03-31'] });
const POWER = plan('Power', {
  isReversing: true,
  posted: [{ entryId: 'last', date: '2026-03-31' }],
});
const show = (plans: readonly JournalPlan[], answers = {}) =>
  renderInBooks(<RecurringPage />, {
    answers: { 'GET /journal-plans': { plans }, ...answers },
  });
const DONE = { step: 9, words: 'Posted recurring journal Kilns of 28 February 2026' };

describe('the list of recurring journals', () => {
  it('teaches what they are for where there are none', async () => {
    const { user } = show([]);
    expect(await screen.findByText('No recurring journals yet')).toBeDefined();
    expect(screen.queryByRole('table')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'New recurring journal' }));
    expect(await screen.findByText('Enter a name.')).toBeDefined();
  });

  it('posts or skips the oldest due date of one, or all that is due', async () => {
    const { user, sent } = show([KILNS, POWER], {
      'POST /journal-plans/post': DONE,
      'POST /journal-plans/Kilns/skip': DONE,
    });
    const bodies = () => sent.filter(({ method }) => method === 'POST').map(({ body }) => body);
    expect(await screen.findByText('2 journals are due, the oldest since 28 Feb.')).toBeDefined();
    const [, first, second] = screen.getAllByRole('row');
    expect(first?.textContent).toContain('28 Feb and 1 more');
    expect(second?.textContent).toContain('Every month, reversed');
    expect(second?.textContent).toContain('next 30 Apr');
    expect(
      within(second ?? document.body)
        .getByText('31 Mar')
        .getAttribute('href'),
    ).toBe('/books/books/ledger/6010?entry=last');
    await user.click(screen.getByRole('button', { name: 'Post journal Kilns of 28 Feb' }));
    await waitFor(() => expect(bodies()).toHaveLength(1));
    await user.click(screen.getByRole('button', { name: 'Skip Kilns for 28 Feb' }));
    await waitFor(() => expect(bodies()).toHaveLength(2));
    await user.click(screen.getByRole('button', { name: 'Post 2 due journals' }));
    await waitFor(() => expect(bodies()).toHaveLength(3));
    const [one, skipped, all] = bodies();
    expect(one).toEqual({ journals: [{ planId: 'Kilns', date: '2026-02-28' }] });
    expect(skipped).toEqual({ date: '2026-02-28' });
    expect(all).toEqual({
      journals: [
        { planId: 'Kilns', date: '2026-02-28' },
        { planId: 'Kilns', date: '2026-03-31' },
      ],
    });
  });

  it('opens one with what it has, and keeps what was typed when the server refuses', async () => {
    const { user, sent } = show([POWER], {
      'PUT /journal-plans/Power': problem('JOURNAL_ON_BANK'),
    });
    await user.click(await screen.findByRole('button', { name: 'Power' }));
    expect(screen.getByText('What was posted before stays as it is.')).toBeDefined();
    const name = screen.getByLabelText<HTMLInputElement>('Name');
    await user.clear(name);
    await user.type(name, 'Power and water');
    await user.click(screen.getByRole('button', { name: 'Every quarter' }));
    await user.click(screen.getByRole('button', { name: 'Save recurring journal' }));
    expect(await screen.findByText(/A journal that touches a bank account/)).toBeDefined();
    expect(name.value).toBe('Power and water');
    expect(sent.find(({ method }) => method === 'PUT')?.body).toEqual({
      name: 'Power and water',
      payeeId: null,
      note: null,
      legs,
      rhythm: 'quarter',
      startDate: '2026-01-31',
      endDate: null,
      isReversing: true,
    });
  });
});

describe('a recurring journal as it is typed', () => {
  it.each([
    ['a name', {}],
    ['the first date', { name: 'Rent', startDate: '' }],
    ['a last date that isn’t before the first', { name: 'Rent', endDate: '2026-01-30' }],
    ['two legs or more', { name: 'Rent' }],
    [
      'an account and an amount on each leg',
      { name: 'Rent', legs: [{ accountId: '6010', amount: 0 }] },
    ],
    [
      'debits and credits of the same total',
      { name: 'Rent', legs: [legs[0], { accountId: '1500', amount: -1 }] },
    ],
  ] as const)('still misses %s', (missing, change) => {
    const draft = { ...emptyPlan('2026-01-31'), ...change } as Parameters<typeof completePlan>[0];
    expect(completePlan(draft)).toEqual({ missing });
  });
});

const entry = (more: Partial<Entry> = {}): Entry => ({
  id: 'entry',
  seenStep: 3,
  date: '2026-03-31',
  bankDate: null,
  kind: 'journal',
  payeeId: null,
  note: 'Power for March',
  number: null,
  reference: null,
  method: null,
  content: {
    kind: 'journal',
    date: '2026-03-31',
    note: 'Power for March',
    number: null,
    payeeId: null,
    legs,
  },
  exchange: null,
  attachments: [],
  isVoid: false,
  step: 3,
  legs: legs.map((leg, at) => ({
    id: `leg ${at}`,
    ...leg,
    original: null,
    taxCodeId: null,
    role: 'base',
    costCentreId: null,
    jobId: null,
    isRecharged: false,
    clients: [],
  })),
  lines: [],
  document: null,
  pays: [],
  replaces: null,
  replacedBy: null,
  reverses: null,
  reversedBy: null,
  plan: null,
  who: 'Mo Oakes',
  at: '2026-03-31T10:00:00Z',
  ...more,
});
const sheet = (shown: Entry, answers = {}) =>
  renderInBooks(<EntrySheet entryId="entry" onClose={() => undefined} />, {
    answers: { 'GET /entries/entry': shown, ...answers },
  });

describe('a journal in the ledger', () => {
  it('is reversed on the first of the next month, or on another day', async () => {
    const { user, sent } = sheet(entry(), { 'POST /entries/entry/reverse': { ...DONE, id: 'b' } });
    await user.click(await screen.findByRole('button', { name: 'Reverse journal' }));
    const dialog = await screen.findByRole('dialog');
    expect(within(dialog).getByLabelText<HTMLInputElement>('Reverse on').value).toBe('01 Apr 2026');
    await user.click(within(dialog).getByRole('button', { name: 'Reverse journal' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({ date: '2026-04-01' });
  });

  it('says what reverses it and what it was posted for, and is not reversed twice', async () => {
    sheet(
      entry({
        reversedBy: { id: 'other', date: '2026-04-01' },
        plan: { id: 'plan', name: 'Power', date: '2026-03-31' },
      }),
    );
    expect((await screen.findByText('the entry of 1 April 2026')).getAttribute('href')).toContain(
      '?entry=other',
    );
    expect(screen.getByRole('link', { name: 'Power' })).toBeDefined();
    expect(screen.queryByRole('button', { name: 'Reverse journal' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Repeat journal' })).toBeNull();
  });

  it('begins a recurring one a month later, with the same legs', () => {
    expect(planStartOf(entry({ reversedBy: { id: 'other', date: '2026-04-01' } }))).toMatchObject({
      name: 'Power for March',
      startDate: '2026-04-30',
      isReversing: true,
      legs,
    });
  });

  it('on a bank account can’t be reversed', async () => {
    const [leg, other] = entry().legs;
    if (!leg || !other) throw new Error('The entry has no legs');
    sheet(entry({ legs: [leg, { ...other, accountId: '1010' }] }));
    expect(await screen.findByRole('button', { name: 'Void entry' })).toBeDefined();
    expect(screen.queryByRole('button', { name: 'Reverse journal' })).toBeNull();
  });
});
