import { screen, waitFor, within } from '@testing-library/react';
import type { MonthClosing } from '@zubrell/contract/closing';
import type { StatementSummary } from '@zubrell/contract/statements';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { testCheck } from '../../testing/testCheck.ts';
import { CloseScreen } from './CloseScreen.tsx';
import { openItems, openItemsWords } from './openItems.ts';
import { SampleDialog } from './SampleDialog.tsx';
import { SignOff } from './SignOff.tsx';

const closing = (more: Partial<MonthClosing> = {}): MonthClosing => ({
  month: '2026-03',
  seenStep: 9,
  state: null,
  note: '',
  prepared: null,
  reviewed: null,
  closed: null,
  lineCount: 173,
  openCount: 0,
  result: 241_807,
  accounts: [],
  checks: [testCheck('openLines'), testCheck('suspense', { count: 1, oldest: '2026-03-19' })],
  reviewedCount: 25,
  months: [],
  ...more,
});
const answers = { 'POST /closings/2026-03': { step: 10, words: 'Closed March 2026' } };

describe('what stands in the way of closing', () => {
  it('is counted with accounts that are not agreed', () => {
    const accounts = [{ bankAccountId: 'everyday', statement: null, isAgreed: false }];
    expect(openItems(closing({ accounts }))).toBe(2);
    expect(openItemsWords(1)).toBe('1 item is open. Settle it, or accept it in the note.');
  });
});

describe('signing a month off', () => {
  it('closes it only with a note where something is open', async () => {
    const { user, sent } = renderInBooks(<SignOff closing={closing()} />, { answers });
    const close = await screen.findByRole('button', { name: 'Close March 2026' });
    expect(close.hasAttribute('disabled')).toBe(true);
    await user.type(screen.getByLabelText('Note for the record'), 'Waits for the answer');
    await user.click(close);
    expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({
      action: 'close',
      note: 'Waits for the answer',
      seenStep: 9,
    });
  });

  it('is handed to the reviewer, who sends it back with a note', async () => {
    const { user, sent } = renderInBooks(<SignOff closing={closing()} />, { answers });
    await user.click(await screen.findByText('Hand to reviewer'));
    expect(sent.find(({ method }) => method === 'POST')?.body).toMatchObject({ action: 'prepare' });
  });

  it('shows who prepared it, and lets a reviewer send it back', async () => {
    const prepared = { by: 'Mo Oakes', at: '2026-04-03T16:20:00Z' };
    const { user, sent } = renderInBooks(
      <SignOff closing={closing({ state: 'prepared', prepared })} />,
      { answers, setup: testBooks({ role: 'reviewer' }) },
    );
    expect(await screen.findByText('Prepared by Mo Oakes')).toBeDefined();
    expect(screen.getByText(/25 of 173 lines looked at/)).toBeDefined();
    await user.type(screen.getByLabelText('Note for the record'), 'The clay bill is missing');
    await user.click(screen.getByText('Send back to Mo'));
    expect(sent.find(({ method }) => method === 'POST')?.body).toMatchObject({
      action: 'sendBack',
      note: 'The clay bill is missing',
    });
    expect(screen.getByRole('button', { name: 'Close March 2026' }).hasAttribute('disabled')).toBe(
      true,
    );
  });

  it('marks the lines of the sample that were looked at', async () => {
    const line = (id: string, reviewedBy: string | null) => ({
      id,
      date: '2026-03-09',
      text: `LINE ${id}`,
      payeeId: null,
      accountIds: ['6010'],
      amount: -5_800,
      chosen: 'size',
      reviewedBy,
    });
    const lines = [line('a', null), line('b', null), line('c', 'Petra Lindqvist')];
    const { user, sent } = renderInBooks(
      <SampleDialog month="2026-03" onClose={() => undefined} />,
      {
        answers: { 'GET /closings/2026-03/sample': { lines, lineCount: 402 } },
      },
    );
    await user.click(await screen.findByLabelText('Seen: LINE b'));
    await user.click(screen.getByText('Mark 1 line as reviewed'));
    expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({ lineIds: ['a'] });
  });
});

describe('the screen of a month', () => {
  const statement: StatementSummary = {
    bankAccountId: 'everyday',
    from: '2026-03-01',
    to: '2026-03-31',
    state: 'open',
    opening: 100_000,
    lineCount: 40,
    openCount: 0,
    askedCount: 0,
    addsUp: 95_150,
    closing: 95_600,
    isClosingTyped: false,
    off: 450,
    agreedBy: null,
    agreedAt: null,
    changedCount: 0,
  };
  const shown = (more: Partial<MonthClosing>, query = '') =>
    renderInBooks(<CloseScreen />, {
      place: { path: 'close/:month', address: 'close/2026-03' },
      query,
      answers: {
        'GET /closings/2026-03': closing(more),
        'GET /closings/2026-03/sample': { lines: [], lineCount: 0 },
      },
    });
  const itemOf = (name: string) => {
    const item = screen.getByText(name, { selector: 'b' }).closest('li');
    if (!item) throw new Error(`no item ${name}`);
    return item;
  };

  it('says how far it is, and leads to the months around it', async () => {
    shown({
      openCount: 3,
      accounts: [{ bankAccountId: 'everyday', statement: null, isAgreed: true }],
      months: [
        { month: '2026-02', isClosed: true },
        { month: '2026-03', isClosed: false },
      ],
    });
    await screen.findByRole('heading', { name: 'Close March 2026' });
    expect(screen.getByText('170 decided, 3 open')).toBeTruthy();
    expect(screen.getByText('1 of 1')).toBeTruthy();
    expect(screen.getByText('+2,418.07')).toBeTruthy();
    const months = within(screen.getByRole('navigation', { name: 'Months' }));
    expect(months.getByTitle('February 2026, closed').className).toBe('closed');
    expect(months.getByTitle('March 2026, open').getAttribute('aria-current')).toBe('page');
  });

  it('leads from a statement that is off to its cause, and from an agreed one to it', async () => {
    const agreed = { ...statement, state: 'agreed' as const, off: 0 };
    shown({
      accounts: [
        { bankAccountId: 'everyday', statement, isAgreed: false },
        { bankAccountId: 'pot', statement: agreed, isAgreed: true },
        { bankAccountId: 'card', statement: null, isAgreed: false },
      ],
    });
    const list = await screen.findByRole('region', { name: 'Bank accounts' });
    const [off, fine, none] = within(list).getAllByRole('listitem');
    expect(off?.textContent).toContain('4.50');
    const links = within(list)
      .getAllByRole('link')
      .map((link) => [link.textContent, link.getAttribute('href')]);
    expect(links).toEqual([
      ['Find the cause', '/books/books/statements/everyday/2026-03-31'],
      ['Open statement', '/books/books/statements/pot/2026-03-31'],
      ['Agree statement', '/books/books/statements'],
    ]);
    expect([off?.className, fine?.className, none?.className]).toEqual(['', 'fine', '']);
    expect(none?.textContent).toContain('no statement yet');
  });

  it('has a way only to what is open, and remembers the way back', async () => {
    const { user, router } = shown({});
    await screen.findByRole('region', { name: 'Books' });
    expect(within(itemOf('Open lines')).queryByRole('link')).toBeNull();
    expect(within(itemOf('Open lines')).getByRole('img', { name: 'settled' })).toBeTruthy();
    const suspense = within(itemOf('Suspense'));
    expect(suspense.getByRole('img', { name: 'open' })).toBeTruthy();
    await user.click(suspense.getByRole('link', { name: 'Open register' }));
    await waitFor(() => expect(router.state.location.pathname).toContain('/ledger/'));
  });

  it('opens the sample that the address asks for', async () => {
    const { user, router } = shown({}, '?sample=open');
    await user.click(await screen.findByRole('button', { name: 'Close' }));
    await waitFor(() => expect(router.state.location.search).toBe(''));
  });

  it('says why there is no such month', async () => {
    renderInBooks(<CloseScreen />, {
      place: { path: 'close/:month', address: 'close/2026-13' },
      answers: { 'GET /closings/2026-13': problem('REQUEST_INVALID', { problems: 'month' }) },
    });
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
  });
});
