import { screen, waitFor, within } from '@testing-library/react';
import type { BooksOverview } from '@zubrell/contract/overview';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { BooksMenu } from './BooksMenu.tsx';

const books = (more: Partial<BooksOverview> = {}): BooksOverview => ({
  id: 'fennick',
  name: 'Fennick Canoe Hire',
  currency: 'EUR',
  role: 'owner',
  isArchived: false,
  summary: null,
  ...more,
});
const menu = (shown: BooksOverview, answers = {}) =>
  renderInBooks(<BooksMenu books={shown} />, { answers });
const open = async (user: ReturnType<typeof menu>['user']) => {
  await user.click(await screen.findByRole('button', { name: 'More for Fennick Canoe Hire' }));
  await screen.findByText('Open settings');
};
const DONE = { step: 3, words: 'Renamed the books' };

describe('the menu of books in the list', () => {
  it('leads to their settings, and lets owners rename and archive them', async () => {
    const { user, sent } = menu(books(), { 'PATCH ': DONE });
    await open(user);
    expect(screen.getByText('Open settings').getAttribute('href')).toBe('/books/fennick/settings');
    await user.click(screen.getByText('Archive books'));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({ method: 'PATCH', body: { isArchived: true } });
  });

  it('takes archived books out again, and lets others only see the settings', async () => {
    const { user, sent, unmount } = menu(books({ isArchived: true }), { 'PATCH ': DONE });
    await open(user);
    await user.click(screen.getByText('Take out of the archive'));
    await waitFor(() => expect(sent[0]?.body).toEqual({ isArchived: false }));
    unmount();
    const other = menu(books({ role: 'bookkeeper' }));
    await open(other.user);
    expect(screen.getByText('Open settings')).toBeDefined();
    expect(screen.queryByText('Rename books')).toBeNull();
  });

  it('is not there for clients', () => {
    menu(books({ role: 'client' }));
    expect(screen.queryByRole('button')).toBeNull();
  });

  it('keeps the dialog and what was typed when a name is refused', async () => {
    const { user, sent } = menu(books(), { 'PATCH ': problem('INTERNAL') });
    await open(user);
    await user.click(screen.getByText('Rename books'));
    const dialog = await screen.findByRole('dialog');
    const save = within(dialog).getByRole<HTMLButtonElement>('button', { name: 'Save name' });
    expect(save.disabled).toBe(true);
    const name = within(dialog).getByLabelText<HTMLInputElement>('Name of the business');
    await user.type(name, ' and Kayaks');
    await user.click(save);
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toEqual({ name: 'Fennick Canoe Hire and Kayaks' });
    expect(await within(dialog).findByText(/./, { selector: '.error-note' })).toBeDefined();
    expect(name.value).toBe('Fennick Canoe Hire and Kayaks');
  });
});
