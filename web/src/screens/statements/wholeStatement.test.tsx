import { screen, waitFor, within } from '@testing-library/react';
import type { Explanation, Statement } from '@zubrell/contract/statements';
import { describe, expect, it, vi } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { setRoomForRows } from '../../testing/roomForRows.ts';
import {
  rowsAnswer,
  testRow,
  testRows,
  testSameTwice,
  testStatement,
} from '../../testing/testStatement.ts';
import { StatementScreen } from './StatementScreen.tsx';

setRoomForRows();

const of = '/bank-accounts/everyday/statements/2026-02-28';

/** What explains 58.00 with the line `copy`. */
const explained = (key: string, cause: Partial<typeof testSameTwice> = {}): Explanation => ({
  key,
  causes: [{ ...testSameTwice, ...cause }],
  likelihood: 'very likely',
});

function open(statement: Statement | Response, answers: Answers = {}) {
  return renderInBooks(<StatementScreen />, {
    place: {
      path: 'statements/:bankAccountId/:to',
      address: 'statements/everyday/2026-02-28',
    },
    answers: { [`GET ${of}`]: () => statement, ...rowsAnswer(), ...answers },
  });
}

const off = (more: Partial<Statement> = {}) =>
  testStatement({ closing: 94_200, off: 5_800, explanations: [explained('twice')], ...more });

const hotRows = () => [...document.querySelectorAll('tr.hot')].map((row) => row.textContent);

describe('a statement', () => {
  it('shows the equation, its lines, what explains the difference, and agreeing it', async () => {
    open(off());
    expect(await screen.findByText('Off by 58.00')).toBeDefined();
    expect(screen.getByRole('region', { name: 'Lines of the statement' })).toBeDefined();
    expect(
      screen.getByRole('complementary', { name: 'What would explain the difference' }).textContent,
    ).toContain('What would explain 58.00');
    expect(screen.getByRole('button', { name: 'Agree statement' })).toBeDefined();
    // The lines of the likeliest explanation are marked without anybody asking.
    await waitFor(() => expect(hotRows()).toHaveLength(2));
  });

  it('shows what another explanation would do, and leaves it at that until it is settled', async () => {
    const edge = explained('edge', { kind: 'overEdge', move: 'toNext', lineIds: ['copy'] });
    const { user, sent } = open(off({ explanations: [explained('twice'), edge] }));
    const [, second] = await screen.findAllByRole('button', { name: 'Try' });
    if (!second) throw new Error('there are two explanations');
    await user.click(second);
    expect(screen.getByText('Would add up')).toBeDefined();
    expect(hotRows()).toHaveLength(1);
    await user.click(screen.getByRole('button', { name: 'Stop trying' }));
    expect(screen.getByText('Off by 58.00')).toBeDefined();
    expect(sent.filter(({ method }) => method !== 'GET')).toEqual([]);
  });

  it('ends on another day where somebody says so, and is gone on with there', async () => {
    const { user, sent, router } = open(testStatement(), {
      [`PATCH ${of}`]: { step: 8, words: 'Changed the period' },
    });
    await user.click(await screen.findByRole('button', { name: /1 February to 28 February 2026/ }));
    const dialog = await screen.findByRole('dialog', { name: 'Period of the statement' });
    expect(dialog.textContent).toContain('It begins on 1 February 2026');
    const save = within(dialog).getByRole('button', { name: 'Save period' });
    expect(save).toHaveProperty('disabled', true);
    const day = within(dialog).getByLabelText('Last day');
    await user.clear(day);
    await user.type(day, '2026-03-05{Tab}');
    await user.click(save);
    await waitFor(() => expect(router.state.location.pathname).toMatch(/everyday\/2026-03-05$/));
    expect(sent.find(({ method }) => method === 'PATCH')?.body).toEqual({ lastDay: '2026-03-05' });
  });

  it('keeps its period, and says why, where it can’t be changed', async () => {
    const { user, router } = open(testStatement(), {
      [`PATCH ${of}`]: () => problem('STATEMENT_UNKNOWN'),
    });
    await user.click(await screen.findByRole('button', { name: /1 February to 28 February 2026/ }));
    const dialog = await screen.findByRole('dialog');
    const day = within(dialog).getByLabelText('Last day');
    await user.clear(day);
    await user.type(day, '2026-03-05{Tab}');
    await user.click(within(dialog).getByRole('button', { name: 'Save period' }));
    await waitFor(() => expect(dialog.querySelector('.error-note')).not.toBeNull());
    expect(router.state.location.pathname).toMatch(/2026-02-28$/);
  });

  it('of an account without files takes ticks, several at once', async () => {
    const legs = ['cheque', 'cash'].map((id) =>
      testRow({ id, kind: 'leg', state: 'entry', isCounted: false, runsTo: null, text: id }),
    );
    const { user, sent } = open(testStatement({ isTicked: true, lineCount: 0, elsewhere: legs }), {
      ...rowsAnswer([]),
      [`POST ${of}/ticks`]: { step: 8, words: 'Ticked 2 entries' },
    });
    expect(await screen.findByText(/Tick the entries that are on the printed/)).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Not ticked 2' }));
    await user.click(await screen.findByLabelText('Choose cheque, −58.00'));
    await user.click(screen.getByLabelText('Choose cash, −58.00'));
    expect(screen.getByRole('toolbar', { name: 'Chosen lines' }).textContent).toContain('2 chosen');
    await user.click(screen.getByRole('button', { name: 'Tick entries' }));
    await waitFor(() =>
      expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({
        legIds: ['cheque', 'cash'],
        isTicked: true,
      }),
    );
    await waitFor(() => expect(screen.queryByRole('toolbar', { name: 'Chosen lines' })).toBeNull());
  });

  it('of very many lines has its equation before them', async () => {
    const { addsUp, closing, ...head } = testStatement({ opening: 90_000, off: 0 });
    let answer: (statement: Statement) => void = () => undefined;
    const later = new Promise<Statement>((done) => {
      answer = done;
    });
    const january = { ...head, to: '2026-01-31', state: 'agreed' as const, addsUp, closing };
    const account = {
      bankAccountId: 'everyday',
      cycle: { kind: 'month' },
      closedTo: null,
      hasOpening: true,
      isTicked: false,
      statements: [january, { ...head, addsUp, closing }],
    };
    const { user } = open(testStatement(), {
      [`GET ${of}`]: () => later,
      'GET /statements': { accounts: [account] },
    });
    expect(await screen.findByText('Adds up')).toBeDefined();
    expect(screen.getByText('Opened at, closed 31 Jan')).toBeDefined();
    expect(screen.getByText(/Fetching the lines/)).toBeDefined();
    expect(screen.queryByRole('table')).toBeNull();
    // What is begun there goes on when they come.
    await user.click(screen.getByRole('button', { name: '1 February to 28 February 2026' }));
    await screen.findByRole('dialog', { name: 'Period of the statement' });
    answer(testStatement({ opening: 90_000, off: 0 }));
    expect(await screen.findByRole('table', { hidden: true })).toBeDefined();
    expect(screen.getByRole('dialog', { name: 'Period of the statement' })).toBeDefined();
    expect(screen.getByText('Adds up')).toBeDefined();
  });

  it('has its rows page by page, and all of them where it is printed', async () => {
    const print = vi.fn();
    vi.stubGlobal('print', print);
    const third = testRow({ id: 'third', text: 'THIRD PAGE', date: '2026-02-27' });
    const pages: Readonly<Record<string, object>> = {
      two: { items: [testRow({ id: 'second', text: 'SECOND PAGE' })], next: 'three' },
      three: { items: [third], next: null },
    };
    const { user, sent } = open(testStatement({ lineCount: 1_232 }), {
      [`GET ${of}/rows`]: (query) =>
        pages[query.get('cursor') ?? ''] ?? { items: testRows, next: 'two' },
    });
    expect(await screen.findByRole('button', { name: 'In the period 1,232' })).toBeDefined();
    expect(screen.getByText('1,232 decided, none open')).toBeDefined();
    await user.click(await screen.findByRole('button', { name: 'Show more lines' }));
    expect(await screen.findByText('SECOND PAGE')).toBeDefined();
    expect(screen.queryByText('THIRD PAGE')).toBeNull();
    // What is printed is on the screen by then.
    print.mockImplementation(() => expect(screen.getByText('THIRD PAGE')).toBeDefined());
    await user.click(screen.getByRole('button', { name: 'Print' }));
    await waitFor(() => expect(print).toHaveBeenCalledOnce());
    expect(screen.queryByRole('button', { name: 'Show more lines' })).toBeNull();
    const asked = sent.filter(({ path }) => path.startsWith(`${of}/rows`));
    expect(asked.map(({ path }) => new URLSearchParams(path.split('?')[1]).get('cursor'))).toEqual([
      null,
      'two',
      'three',
    ]);
  });

  it('has the lines that an explanation names among its rows, and no more pages than that takes', async () => {
    const page = (id: string, date: string, next: string | null) => ({
      items: [testRow({ id, date, text: id })],
      next,
    });
    const pages: Readonly<Record<string, object>> = {
      two: page('copy', '2026-02-20', 'three'),
      three: page('last', '2026-02-27', null),
    };
    const named = [
      { id: 'copy', date: '2026-02-20', text: 'copy', amount: -5_800 },
      // It lies in the next statement: no page has it.
      { id: 'first', date: '2026-03-01', text: 'next', amount: -5_800 },
    ];
    open(off({ named }), {
      [`GET ${of}/rows`]: (query) =>
        pages[query.get('cursor') ?? ''] ?? page('early', '2026-02-14', 'two'),
    });
    await waitFor(() => expect(hotRows()).toHaveLength(1));
    expect(screen.getByRole('button', { name: 'Show more lines' })).toBeDefined();
    expect(screen.queryByText('last')).toBeNull();
  });

  it('is not printed in part where a page can’t be had', async () => {
    const print = vi.fn();
    vi.stubGlobal('print', print);
    const { user } = open(testStatement(), {
      [`GET ${of}/rows`]: (query) =>
        query.has('cursor') ? problem('STATEMENT_UNKNOWN') : { items: testRows, next: 'two' },
    });
    await screen.findByRole('button', { name: 'Show more lines' });
    await user.click(screen.getByRole('button', { name: 'Print' }));
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    expect(screen.getAllByRole('row')).toHaveLength(3);
    expect(print).not.toHaveBeenCalled();
  });

  it('says what is wrong where its rows can’t be had, and is not empty', async () => {
    open(testStatement(), { [`GET ${of}/rows`]: () => problem('STATEMENT_UNKNOWN') });
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    expect(screen.queryByText('No lines in this period')).toBeNull();
  });

  it('has its report as files of the server', async () => {
    open(testStatement());
    const way = async (name: string) =>
      (await screen.findByRole('link', { name })).getAttribute('href');
    expect(await way('Save CSV')).toBe(`/api/books/books${of}/report?as=csv`);
    expect(await way('Open PDF')).toBe(`/api/books/books${of}/report?as=pdf`);
  });

  it('that is none says so, and leads to all of them', async () => {
    open(problem('STATEMENT_UNKNOWN'));
    const way = await screen.findByRole('link', { name: 'All statements' });
    expect(way.getAttribute('href')).toBe('/books/books/statements');
    expect(screen.getByRole('alert').textContent).not.toBe('');
  });
});
