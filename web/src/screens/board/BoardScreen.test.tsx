import { screen, waitFor, within } from '@testing-library/react';
import type { Board } from '@zubrell/contract/board';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { BoardScreen } from './BoardScreen.tsx';

const nothing = { count: 0, total: 0 };
const cell = { lines: 10, open: 4, ready: 3, unexplained: 0, isClosed: false };
const months = ['2025-11', '2025-12', '2026-01', '2026-02', '2026-03'];

const board = (change: Partial<Board> = {}): Board => ({
  months,
  rows: [
    {
      bankAccountId: 'everyday',
      knownTo: '2026-03-28',
      firstBreak: null,
      cells: months.map((month) => ({ ...cell, month })),
    },
  ],
  causes: [],
  clearing: [],
  journals: { due: 0, oldest: null, next: null },
  due: {
    billsOverdue: nothing,
    billsSoon: nothing,
    invoicesOverdue: nothing,
    month: null,
    tax: null,
  },
  open: { ready: 3, check: 1, blank: 0, asked: 0 },
  ...change,
});

function open(shown: Board) {
  return renderInBooks(<BoardScreen />, {
    answers: {
      'GET /board': shown,
      'GET /feeds': { feeds: [] },
      'GET /questions': { questions: [] },
      'GET /coding-record': { months: [], work: [], readyFrom: 0.9 },
      'GET /sweep': {
        seenStep: 1,
        seen: [],
        count: 3,
        paidIn: 0,
        paidOut: -300,
        accounts: [],
        pairs: { count: 0, total: 0, lines: [] },
        transfers: { count: 0, moved: 0, halves: [] },
        newPayeeIds: [],
        largest: [],
        look: [],
        left: { check: 1, blank: 0, asked: 0, closed: 0 },
      },
      'POST /visit': { at: null, came: { lines: 0, batches: 0 }, people: [], answers: 0 },
    },
  });
}

describe('the Board', () => {
  it('says what to do first while there are no lines, with a way to each', async () => {
    const [row] = board().rows;
    open(board({ rows: row ? [{ ...row, knownTo: null }] : [] }));
    await screen.findByRole('heading', { name: 'Set up Larkmoor Kiln Works' });
    expect(screen.getByRole('link', { name: 'Import a file' }).getAttribute('href')).toBe(
      '/books/books/intake',
    );
    expect(screen.getByRole('link', { name: 'Enter balances' }).getAttribute('href')).toBe(
      '/books/books/ledger/opening-balances',
    );
    expect(screen.queryByRole('table')).toBeNull();
  });

  it('says what is left, with the newest months, and goes back to earlier ones', async () => {
    const { user } = open(board());
    await screen.findByRole('heading', { name: '4 lines to go, 3 of them ready' });
    const heads = () =>
      within(screen.getByRole('table'))
        .getAllByRole('columnheader')
        .map(({ textContent }) => textContent);
    expect(heads()[1]).toContain('December 2025');
    expect(screen.getByRole('button', { name: 'Later' })).toHaveProperty('disabled', true);
    await user.click(screen.getByRole('button', { name: 'Earlier' }));
    await waitFor(() => expect(heads()[1]).toContain('November 2025'));
  });

  it('asks before it posts what is ready, and leads to the Desk for the rest', async () => {
    const { user } = open(board());
    await user.click(await screen.findByRole('button', { name: 'Post the 3 ready lines …' }));
    await screen.findByRole('dialog', { name: 'Post ready lines' });
    await screen.findByRole('button', { name: 'Post 3 lines' });
    expect(screen.getByText('Continue on the Desk').getAttribute('href')).toBe(
      '/books/books/desk?lane=check',
    );
  });

  it('has nothing to post where all is done', async () => {
    open(board({ open: { ready: 0, check: 0, blank: 0, asked: 0 } }));
    await screen.findByRole('heading', { name: 'Nothing is left to do' });
    expect(screen.queryByRole('button', { name: /^Post/ })).toBeNull();
    expect(screen.queryByText('Continue on the Desk')).toBeNull();
  });
});
