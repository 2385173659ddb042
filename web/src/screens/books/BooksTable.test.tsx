import { screen, within } from '@testing-library/react';
import type { BooksOverview, BooksSummary } from '@zubrell/contract/overview';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testOverview } from '../../testing/testOverview.ts';
import { BooksTable } from './BooksTable.tsx';

const fetchedToday: Partial<BooksSummary> = {
  feedCount: 1,
  lastFetch: '2026-03-31',
  lastClosed: '2026-01',
  months: [
    { month: '2026-01', state: 'closed' },
    { month: '2026-02', state: 'open' },
    { month: '2026-03', state: 'none' },
  ],
};

function shown(change: Partial<BooksSummary> | null, role: BooksOverview['role'] = 'owner') {
  const summary = { ...fetchedToday, ...change };
  const none = change === null ? { summary: null } : {};
  const books = testOverview('Larkmoor Kiln Works', summary, { id: 'larkmoor', role, ...none });
  renderInBooks(<BooksTable books={[books]} />);
  const row = screen.getByRole('row', { name: /Larkmoor Kiln Works/ });
  const [, open, asked, unexplained, feeds, , next] = within(row)
    .getAllByRole('cell')
    .map(({ textContent }) => textContent);
  return { row, open, asked, unexplained, feeds, next };
}
const wayNext = (row: HTMLElement, name: string) =>
  within(row).getByRole('link', { name }).getAttribute('href');

describe('a row of the list of books', () => {
  it('says that nothing is left, and how each month stands', () => {
    const { row, open, asked, unexplained, feeds, next } = shown({});
    expect({ open, asked, unexplained, feeds, next }).toEqual({
      open: 'none open',
      asked: '0',
      unexplained: '0.00',
      feeds: 'fetched today',
      next: 'nothing until new lines arrive',
    });
    expect(within(row).getByText('EUR · Owner')).toBeTruthy();
    expect(wayNext(row, 'January 2026: closed')).toBe('/books/larkmoor/close/2026-01');
    expect(within(row).getByRole('link', { name: 'February 2026: not closed' })).toBeTruthy();
    expect(within(row).getByRole('link', { name: 'March 2026: no lines' })).toBeTruthy();
    expect(row.className).toBe('');
  });

  it.each([
    [{ feedCount: 0 }, 'files only'],
    [{ lastFetch: null }, 'never fetched'],
    [{ lastFetch: '2026-03-28' }, 'fetched 28 Mar'],
  ] as const)('says when lines were fetched: %o', (change, words) => {
    expect(shown(change).feeds).toBe(words);
  });

  it('leads to signing in where a feed is in trouble, before anything else', () => {
    const { row, feeds } = shown({ troubledFeed: 'Wick & Alder', unexplained: -450, ready: 8 });
    expect(feeds).toBe('no linesWick & Alder');
    expect(wayNext(row, 'Sign in at the bank')).toBe('/books/larkmoor/intake');
    expect(row.className).toBe('needs-you');
  });

  it('leads to the cause of a difference', () => {
    const { row, unexplained } = shown({ unexplained: -450, open: 8, ready: 8 });
    expect(unexplained).toBe('4.50');
    expect(wayNext(row, 'Find the cause')).toBe('/books/larkmoor/statements');
  });

  it('reminds whoever was asked long ago', () => {
    const { row, asked } = shown({
      asked: 2,
      oldestAsked: '2026-03-10',
      askedOf: 'Hanne',
      open: 2,
    });
    expect(asked).toBe('2oldest 21 days');
    expect(wayNext(row, 'Remind Hanne')).toBe('/books/larkmoor/desk?lane=asked');
  });

  it('offers to post what is ready, and goes on with the rest', () => {
    const ready = shown({ open: 12, ready: 8, check: 3 });
    expect(ready.open).toBe('12 open, 8 ready, 3 to check');
    expect(wayNext(ready.row, 'Post 8 ready lines …')).toBe('/books/larkmoor/board');
  });

  it('goes on with lines of which none is ready', () => {
    expect(wayNext(shown({ open: 4, check: 4 }).row, 'Continue on the Desk')).toBe(
      '/books/larkmoor/desk',
    );
  });

  it('closes the oldest month that is done', () => {
    const { row } = shown({ openMonth: '2026-02' });
    expect(wayNext(row, 'Close February 2026')).toBe('/books/larkmoor/close/2026-02');
  });

  it('says that nothing was calculated yet', () => {
    expect(shown(null).next).toBe('not calculated yet');
  });

  it('leads clients to their questions, and offers them nothing else', () => {
    const { row } = shown(null, 'client');
    expect(wayNext(row, 'Answer questions')).toBe('/books/larkmoor/questions');
    expect(wayNext(row, 'Larkmoor Kiln Works')).toBe('/books/larkmoor/questions');
    expect(within(row).queryByRole('button')).toBeNull();
  });
});
