import { screen, waitFor } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { renderInBooks } from '../testing/renderInBooks.tsx';

// jsdom has no media queries, and the theme asks one as it is loaded.
vi.stubGlobal('matchMedia', () => ({ matches: false, addEventListener: () => undefined }));
const { UserMenuOpened } = await import('./UserMenuOpened.tsx');

afterEach(() => {
  localStorage.clear();
  delete document.documentElement.dataset.bsTheme;
});

const open = (role: string | null) =>
  renderInBooks(<UserMenuOpened button={{ className: 'user', label: 'MO', content: 'MO' }} />, {
    place: { path: 'board', address: 'board' },
    answers: {
      'GET /api/session': { user: { id: 'mo', name: 'Mo Oakes' }, today: '2026-04-08' },
      'GET /api/books': { books: role === null ? [] : [{ id: 'books', role }] },
      'DELETE /api/session': {},
    },
  });

it('the user’s menu leads to the settings of the books on the screen and the user’s own', async () => {
  open('owner');
  expect(await screen.findByText('Mo Oakes')).toBeDefined();
  const way = async (name: string) => (await screen.findByText(name)).getAttribute('href');
  expect(await way('Settings of these books')).toBe('/books/books/settings');
  expect(await way('Questions for you')).toBe('/books/books/questions');
  expect(await way('Your account')).toBe('/account');
});

it('the user’s menu has no settings for whoever only answers questions', async () => {
  open('client');
  expect(await screen.findByText('Your account')).toBeDefined();
  expect(screen.queryByText('Settings of these books')).toBeNull();
});

it('the user’s menu changes how the program looks, and keeps that', async () => {
  const { user } = open('owner');
  const theme = () => document.documentElement.dataset.bsTheme;
  await user.click(await screen.findByText('Dark'));
  expect(theme()).toBe('dark');
  expect(screen.getByText('Dark').className).toContain('active');
  await user.click(screen.getByText('Light'));
  expect(theme()).toBe('light');
  expect(screen.getByText('Dark').className).not.toContain('active');
});

it('the user’s menu signs out', async () => {
  const { user, sent } = open('owner');
  await user.click(await screen.findByText('Sign out'));
  await waitFor(() => expect(sent.map(({ method }) => method)).toContain('DELETE'));
});
