import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testOverview } from '../../testing/testOverview.ts';
import { BooksScreen } from './BooksScreen.tsx';

const show = (books: object) =>
  renderInBooks(<BooksScreen />, { answers: { 'GET /api/books': books } });

const names = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('link')[0]?.textContent);

const three = {
  books: [
    testOverview('Larkmoor Kiln Works', { lastClosed: '2026-02', openMonth: '2026-03' }),
    testOverview('Orrel Orchard Press', {
      open: 40,
      unexplained: 3_320,
      lastClosed: '2026-02',
      openMonth: '2026-03',
    }),
    testOverview('Tollgate Bindery', {}, { isArchived: true }),
  ],
};

describe('all books', () => {
  it('come by what needs somebody first, or by name, without those that are archived', async () => {
    const { user } = show(three);
    expect((await screen.findByRole('heading', { level: 1 })).textContent).toBe(
      '1 of 2 books needs you today',
    );
    expect(names()).toEqual(['Orrel Orchard Press', 'Larkmoor Kiln Works']);
    await user.click(screen.getByRole('button', { name: 'Name' }));
    expect(names()).toEqual(['Larkmoor Kiln Works', 'Orrel Orchard Press']);
  });

  it('that are archived are behind a press', async () => {
    const { user } = show(three);
    await user.click(await screen.findByRole('button', { name: 'Archived 1' }));
    expect(names()).toEqual(['Tollgate Bindery']);
    await user.click(screen.getByRole('button', { name: 'Active 2' }));
    expect(names()).toHaveLength(2);
  });

  it('are said to be archived where all are', async () => {
    show({ books: three.books.slice(2) });
    expect(await screen.findByText('All books are archived')).toBeDefined();
    expect(screen.queryByRole('table')).toBeNull();
  });

  it('are made anew where there are none', async () => {
    const { user } = show({ books: [] });
    expect(await screen.findByText('No books yet')).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'New books' }));
    expect(await screen.findByRole('dialog')).toBeDefined();
  });

  it('are said not to be had where the server fails', async () => {
    show(problem('INTERNAL'));
    await waitFor(() => expect(screen.getByRole('alert').textContent).not.toBe(''));
    expect(screen.queryByText('No books yet')).toBeNull();
  });
});
