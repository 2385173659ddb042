import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { UserEvent } from '@testing-library/user-event';
import type { BooksSetup } from '@zubrell/contract/books';
import type { Stack } from '@zubrell/contract/desk';
import { messageOf } from '@zubrell/core/errors';
import { MOST_OF_STACK } from '@zubrell/core/propose/mostOfStack';
import { Toaster } from 'sonner';
import { expect, it, vi } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { setRoomForRows } from '../../testing/roomForRows.ts';
import { testBooks } from '../../testing/testBooks.ts';
import { testLine, testSheet, testStack } from '../../testing/testLines.ts';
import { testProof } from '../../testing/testProof.ts';
import { DeskScreen } from './DeskScreen.tsx';
import { emptyCoding } from './rows.ts';

setRoomForRows();

const lanes = {
  ready: 4,
  check: 0,
  blank: 0,
  asked: 0,
  posted: 9,
  paired: 0,
  excluded: 0,
  deleted: 0,
  isDecidedMore: false,
  openOutside: 0,
};
const ofFreight = [testLine('1'), testLine('2', { amount: -4_900 }), testLine('3')];
const freight = testStack('TIDEMARK FRT');
const stalls = testStack('SALTMARSH STALL', {
  count: 1,
  total: -3_500,
  proposal: null,
  title: 'SALTMARSH STALL 12',
});
const proof = { proof: testProof() };

const sheetOf = (id: string) =>
  testSheet(testLine(id), { reference: id === '2' ? 'INV 2093' : null });

async function shown(
  change: Record<string, object | (() => object)> = {},
  setup: BooksSetup = testBooks(),
) {
  let stacks: Stack[] = [freight, stalls];
  const view = renderInBooks(
    <>
      <DeskScreen />
      <Toaster />
    </>,
    {
      setup,
      answers: {
        'GET /lanes': lanes,
        'GET /stacks': () => ({ stacks, seenStep: 41 }),
        'GET /stack-lines': { lines: ofFreight },
        'GET /proof': proof,
        'GET /payee-uses': { uses: [] },
        'GET /nudges/dismissed': { dismissed: [] },
        'GET /account-uses': { uses: [] },
        'GET /lines/1': sheetOf('1'),
        'GET /lines/2': sheetOf('2'),
        'GET /lines/1/thread': { questions: [], attachments: [] },
        'GET /lines/2/thread': { questions: [], attachments: [] },
        'PUT /lines/2/draft': { version: 1 },
        'POST /lines/post': () => {
          stacks = [stalls];
          return { step: 42, words: 'Posted 3 lines', done: ofFreight, leftOut: [] };
        },
        ...change,
      },
    },
  );
  await screen.findAllByText('Tidemark Freight');
  return view;
}

/** The row of the list; the sheet beside it names the same. */
function rowOf(name: string): HTMLElement {
  const rows = within(screen.getByRole('treegrid')).getAllByRole('row');
  const row = rows.find(({ textContent }) => textContent?.includes(name));
  return row ?? expect.unreachable(`no row has ${name}`);
}

const hasRow = (name: string) =>
  within(screen.getByRole('treegrid')).queryAllByText(name).length > 0;

it('shows what each stack is, where it goes, and how its amounts and days spread', async () => {
  await shown();
  const row = rowOf('Tidemark Freight');
  expect(within(row).getByText('3 lines')).toBeTruthy();
  expect(within(row).getByText('−145.50')).toBeTruthy();
  expect(row.textContent).toContain('48.50, 03 Mar to 24 Mar');
  expect(within(row).getByText('6010 Freight out')).toBeTruthy();
  const blank = rowOf('Saltmarsh Stall');
  expect(within(blank).getByText('1 line')).toBeTruthy();
});

it('opens a stack by a key, with its lines below', async () => {
  const { user } = await shown();
  await user.keyboard('{ArrowRight}');
  const rows = await screen.findAllByText(/^TIDEMARK FRT \d$/);
  expect(rows).toHaveLength(3);
  expect(rowOf('Tidemark Freight').getAttribute('aria-expanded')).toBe('true');
});

it('posts a stack as it was shown, goes to the next, and reads only what changed, once', async () => {
  const { user, sent } = await shown();
  await waitFor(() => expect(sent.some(({ path }) => path.startsWith('/proof'))).toBe(true));
  const before = sent.length;
  await user.keyboard('{Shift>}{Enter}{/Shift}');
  await waitFor(() => expect(hasRow('Tidemark Freight')).toBe(false));
  await new Promise((done) => setTimeout(done, 50));
  const since = sent.slice(before);
  expect(since[0]).toMatchObject({
    method: 'POST',
    path: '/lines/post',
    body: {
      seenStep: 41,
      target: {
        lane: 'ready',
        stack: { grouping: 'lookAlikes', key: 'TIDEMARK FRT', direction: 'out' },
      },
    },
  });
  const read = since.slice(1).map(({ path }) => path.replace(/\?.*/, ''));
  expect(read.sort()).toEqual(['/lanes', '/proof', '/stacks']);
  expect(rowOf('Saltmarsh Stall').getAttribute('aria-selected')).toBe('true');
});

it('lets a stack go as it is posted, and what is typed into the next is left alone by the answer', async () => {
  let post = (_: object): void => undefined;
  const answer = new Promise<object>((done) => {
    post = done;
  });
  // The list that is fetched afterwards still has the stack: what is typed into stays the current row.
  const { user, sent } = await shown({ 'POST /lines/post': () => answer });
  await user.keyboard('{Shift>}{Enter}{/Shift}');
  await waitFor(() => expect(hasRow('Tidemark Freight')).toBe(false));
  expect(document.body.textContent).not.toContain('Posted 3 lines to 6010');
  await user.keyboard('a');
  const field = await screen.findByRole('combobox', { name: 'Account' });
  await user.keyboard('mark');
  post({
    step: 42,
    words: 'Posted 3 lines to 6010',
    done: ofFreight.map(({ id }) => id),
    leftOut: [],
  });
  await screen.findByText('Posted 3 lines to 6010');
  expect(document.activeElement).toBe(field);
  expect(field).toHaveProperty('value', 'mark');
  expect(sent.filter(({ method }) => method === 'POST')).toHaveLength(1);
});

it('posts one stack for an Enter that is held down', async () => {
  const { sent } = await shown({ 'POST /lines/post': () => new Promise(() => undefined) });
  const list = screen.getByRole('treegrid');
  fireEvent.keyDown(list, { key: 'Enter', code: 'Enter' });
  await waitFor(() => expect(hasRow('Tidemark Freight')).toBe(false));
  fireEvent.keyDown(list, { key: 'Enter', code: 'Enter', repeat: true });
  await new Promise((done) => setTimeout(done, 50));
  expect(sent.filter(({ path }) => path === '/lines/post')).toHaveLength(1);
  expect(rowOf('Saltmarsh Stall').getAttribute('aria-selected')).toBe('true');
});

async function goToSecondLine(user: UserEvent): Promise<void> {
  await user.keyboard('{ArrowRight}');
  await user.click(await screen.findByText('TIDEMARK FRT 2'));
  await screen.findByText('INV 2093');
}

it('shows what the bank says of a line, and why it is proposed as it is', async () => {
  const { user } = await shown();
  await goToSecondLine(user);
  expect(await screen.findByText('INV 2093')).toBeTruthy();
  expect(screen.getByText('march.csv, row 12')).toBeTruthy();
  expect(screen.getByText('Everyday account')).toBeTruthy();
  expect(screen.getByText(/All 7 look-alikes went to 6010 Freight out/)).toBeTruthy();
  expect(screen.getByText('3 March 2026')).toBeTruthy();
});

it('posts one line by itself, coded as it was typed', async () => {
  const { user, sent } = await shown();
  await goToSecondLine(user);
  const account = screen.getByRole('combobox', { name: 'Account' });
  await user.click(account);
  await user.keyboard('market{Enter}');
  await waitFor(() =>
    expect((account as HTMLInputElement).value).toBe('6020 Market and stall fees'),
  );
  await user.click(screen.getByRole('button', { name: /Post this line/ }));
  await waitFor(() => expect(sent.some(({ path }) => path === '/lines/post')).toBe(true));
  expect(sent.find(({ path }) => path === '/lines/post')?.body).toMatchObject({
    target: { lineIds: ['2'] },
    coding: { payeeId: 'tidemark', parts: [{ accountId: '6020' }] },
    seenStep: 41,
  });
});

it('knows what is used most by now wherever a field opens', async () => {
  const { user, sent } = await shown();
  const read = () => sent.filter(({ path }) => path === '/account-uses').length;
  await waitFor(() => expect(read()).toBe(1));
  vi.useFakeTimers({ toFake: ['Date'] });
  vi.setSystemTime(Date.now() + 6_000);
  await user.keyboard('a');
  await waitFor(() => expect(read()).toBe(2));
  vi.useRealTimers();
});

it('says why nothing was posted, and leaves the stack where it is', async () => {
  const { user } = await shown({
    'POST /lines/post': () => problem('PERIOD_CLOSED', { date: '3 March', closed: '31 March' }),
  });
  await user.keyboard('{Shift>}{Enter}{/Shift}');
  await waitFor(() => expect(document.body.textContent).toContain('closed'));
  expect(hasRow('Tidemark Freight')).toBe(true);
});

it('says what went wrong when the lines can’t be had', async () => {
  renderInBooks(<DeskScreen />, {
    answers: { 'GET /lanes': lanes, 'GET /stacks': () => problem('INTERNAL') },
  });
  expect(await screen.findByText(/went wrong on our side/)).toBeTruthy();
});

it('splits a line under it, from field to field by Enter, and posts it from the list', async () => {
  const { user, sent } = await shown({ 'PUT /lines/1/draft': { version: 1 } });
  await user.keyboard('{ArrowRight}');
  await screen.findAllByText(/^TIDEMARK FRT \d$/);
  await user.keyboard('{ArrowDown}s');
  const amount = await screen.findByLabelText('Amount of part 1');
  await waitFor(() => expect(document.activeElement).toBe(amount));
  await user.keyboard('10.50{Enter}');
  await waitFor(() => expect(document.activeElement?.getAttribute('aria-label')).toBe('Account'));
  await user.keyboard('6020{Enter}');
  expect(screen.getByText('The parts add up. Nothing is left.')).toBeTruthy();
  await user.keyboard('{Escape}');
  expect(document.activeElement).toBe(screen.getByRole('treegrid'));
  await user.keyboard('{Enter}');
  await waitFor(() =>
    expect(sent.find(({ path }) => path === '/lines/post')?.body).toMatchObject({
      target: { lineIds: ['1'] },
      coding: {
        parts: [
          { accountId: '6020', share: { kind: 'fixed', amount: -1_050 } },
          { accountId: '6010', share: { kind: 'rest' } },
        ],
      },
    }),
  );
});

it('has keys only while its list has the focus, which comes back to it from nowhere', async () => {
  const { user, sent } = await shown();
  const list = screen.getByRole('treegrid');
  await user.keyboard('/');
  const search = screen.getByLabelText('Search lines');
  expect(document.activeElement).toBe(search);
  await user.keyboard('xq2');
  expect((search as HTMLInputElement).value).toBe('xq2');
  expect(screen.queryByRole('dialog')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Payee' }));
  await user.keyboard('x');
  expect(screen.queryByRole('dialog')).toBeNull();
  await user.click(document.body);
  await waitFor(() => expect(document.activeElement).toBe(list));
  expect(sent.some(({ path }) => path.startsWith('/lines/'))).toBe(false);
});

it('asks about a large purchase coded to a running cost by hand, without being in the way', async () => {
  const kiln = testStack('KILN MAKERS', {
    count: 1,
    total: -124_900,
    smallest: 124_900,
    largest: 124_900,
    proposal: null,
    title: 'KILN MAKERS',
  });
  const setup = testBooks();
  const { user, sent } = await shown(
    { 'GET /stacks': { stacks: [freight, kiln], seenStep: 41 } },
    { ...setup, books: { ...setup.books, assetThreshold: 80_000 } },
  );
  await user.keyboard('{ArrowDown}a');
  await user.keyboard('6020{Enter}');
  expect(await screen.findByText('Code it to 1500 Equipment')).toBeTruthy();
  await user.keyboard('{Escape}{Enter}');
  await waitFor(() => expect(sent.some(({ path }) => path === '/lines/post')).toBe(true));
});

it('sorts by the heads of its columns: one way, the other, as usual', async () => {
  const { user } = await shown();
  const order = () =>
    within(screen.getByRole('treegrid'))
      .getAllByRole('row')
      .map(({ textContent }) => (textContent?.includes('Tidemark') ? 'freight' : 'stall'));
  const usual = order();
  const amount = screen.getByRole('button', { name: 'Amount' });
  await user.click(amount);
  expect(order()).toEqual(['freight', 'stall']);
  expect(amount.getAttribute('aria-pressed')).toBe('true');
  await user.click(amount);
  expect(order()).toEqual(['stall', 'freight']);
  expect(amount.title).toBe('Sorted: smallest first');
  await user.click(amount);
  expect(order()).toEqual(usual);
});

it('turns to the sheet where a row is pressed, and back', async () => {
  const { user } = await shown();
  const isTurned = () => screen.getByRole('main').classList.contains('sheet-open');
  await user.click(within(rowOf('Tidemark Freight')).getByText('3 lines'));
  expect(isTurned()).toBe(true);
  await user.click(screen.getByRole('button', { name: 'Back to the list' }));
  expect(isTurned()).toBe(false);
  await user.click(within(rowOf('Tidemark Freight')).getByRole('checkbox'));
  expect(isTurned()).toBe(false);
});

it('keeps what is typed on the head of a stack with its lines', async () => {
  const { user, sent } = await shown();
  await user.keyboard('a');
  await user.keyboard('6020{Enter}');
  await waitFor(() =>
    expect(sent.find(({ path }) => path === '/stack-draft')?.body).toMatchObject({
      stack: { grouping: 'lookAlikes', key: 'TIDEMARK FRT', direction: 'out' },
      lane: 'ready',
      coding: { accountId: '6020' },
      before: null,
    }),
  );
});

it('shows the answer that came back on its stack, and why it waits', async () => {
  const answered = testStack('TIDEMARK FRT', { answeredCount: 1, answer: 'two crates of mugs' });
  await shown({ 'GET /stacks': { stacks: [answered], seenStep: 41 } });
  expect(
    within(rowOf('Tidemark Freight')).getByText('answered: “two crates of mugs”'),
  ).toBeTruthy();
  expect(screen.getByText('The answer: “two crates of mugs”')).toBeTruthy();
});

it('posts nothing of a stack in which lines are coded on their own, where it can’t be told which', async () => {
  const mixed = { ...freight, draftCount: 1, draft: null };
  let isReachable = false;
  const { user, sent } = await shown({
    'GET /stacks': () => ({ stacks: [mixed, stalls], seenStep: 41 }),
    'GET /stack-lines': () =>
      isReachable
        ? {
            lines: [
              ...ofFreight.slice(0, 2),
              testLine('3', { draft: { ...emptyCoding, accountId: '5000' } }),
            ],
          }
        : problem('INTERNAL'),
  });
  const posted = () => sent.find(({ path }) => path === '/lines/post')?.body;
  await user.keyboard('{Enter}');
  await screen.findByText(messageOf('INTERNAL', {}));
  expect(posted()).toBeUndefined();
  expect(hasRow('Tidemark Freight')).toBe(true);
  isReachable = true;
  await user.keyboard('{Enter}');
  await waitFor(() => expect(posted()).toMatchObject({ target: { lineIds: ['1', '2'] } }));
});

it('says that of a very large stack only the oldest lines are ticked', async () => {
  const many = Array.from({ length: MOST_OF_STACK }, (_, at) => testLine(`n${at}`));
  const { user } = await shown({
    'GET /stacks': () => ({ stacks: [{ ...freight, count: 5_000 }, stalls], seenStep: 41 }),
    'GET /stack-lines': { lines: many },
  });
  expect(screen.getByText('When opened, it shows only its oldest 2,000 lines.')).toBeTruthy();
  await user.keyboard(' ');
  const warning = 'This takes the oldest 2,000 of 5,000 lines. Do it again for the rest.';
  expect(await screen.findByText(warning)).toBeTruthy();
  expect(screen.getByText(/^2,000 lines ticked/)).toBeTruthy();
});

it('says nothing of that where all lines are there', async () => {
  const { user } = await shown();
  expect(screen.queryByText(/When opened, it shows/)).toBeNull();
  await user.keyboard(' ');
  expect(await screen.findByText(/^3 lines ticked/)).toBeTruthy();
  expect(screen.queryByText(/This takes the oldest/)).toBeNull();
});
