import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../testing/renderInBooks.tsx';
import { setRoomForRows } from '../testing/roomForRows.ts';
import { JumpDialog } from './JumpDialog.tsx';

setRoomForRows();
const books = (id: string, name: string, more: object = {}) => ({
  id,
  name,
  currency: 'EUR',
  role: 'owner',
  isArchived: false,
  ...more,
});
// The list of books belongs to no books, so its path has nothing taken off.
const answers = {
  'GET /rules': { rules: [] },
  'GET /found-lines': { lines: [] },
  'GET /api/books': {
    books: [
      books('books', 'Larkmoor Kiln Works'),
      books('fennick', 'Fennick Canoe Hire'),
      books('old', 'Fennick Boat Shed', { isArchived: true }),
      books('client', 'Fennick Moorings', { role: 'client' }),
    ],
  },
};

describe('Jump', () => {
  it('finds other books by name, but for those that are archived', async () => {
    let isOpen = true;
    const { user } = renderInBooks(<JumpDialog onClose={() => (isOpen = false)} />, { answers });
    await user.type(await screen.findByRole('combobox'), 'Fennick');
    expect(await screen.findByText('Fennick Canoe Hire')).toBeDefined();
    expect(screen.getByText('Fennick Moorings')).toBeDefined();
    expect(screen.queryByText('Fennick Boat Shed')).toBeNull();
    await user.click(screen.getByText('Fennick Canoe Hire'));
    await waitFor(() => expect(isOpen).toBe(false));
  });

  it('finds screens, accounts and payees of these books', async () => {
    const { user } = renderInBooks(<JumpDialog onClose={() => undefined} />, { answers });
    const input = await screen.findByRole('combobox');
    await user.type(input, 'Tidemark');
    expect(await screen.findByText('Tidemark Freight')).toBeDefined();
    await user.clear(input);
    await user.type(input, 'Recurring');
    expect(await screen.findByText('Recurring journals')).toBeDefined();
    expect(screen.queryByText('Tidemark Freight')).toBeNull();
  });
});

it('finds an entry by its number or reference', async () => {
  const { user, router } = renderInBooks(<JumpDialog onClose={() => undefined} />, {
    answers: {
      'GET /found-entries': {
        entries: [
          {
            entryId: 'entry',
            accountId: '1010',
            date: '2026-03-26',
            number: '001042',
            reference: null,
            text: 'Crate of glaze',
            payee: 'Penhallow Clay',
            amount: -3_500,
          },
        ],
      },
      'GET /found-lines': { lines: [] },
      'GET /rules': { rules: [] },
    },
  });
  await user.type(await screen.findByPlaceholderText(/A screen, account/), '001042');
  expect(await screen.findByText('001042 · Penhallow Clay · Crate of glaze')).toBeDefined();
  // No heading stands above nothing.
  expect(screen.getByText('Entries')).toBeDefined();
  expect(screen.queryByText('Lines')).toBeNull();
  // It came after the list had nothing to choose, and is chosen all the same.
  await waitFor(() => expect(screen.getByRole('option', { selected: true })).toBeDefined());
  await user.keyboard('{Enter}');
  expect(router.state.location.pathname).toContain('/ledger/1010');
});
