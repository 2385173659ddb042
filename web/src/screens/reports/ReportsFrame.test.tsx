import { screen, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { ReportsFrame } from './ReportsFrame.tsx';

it('keeps the period from one report to another', async () => {
  const { user, router } = renderInBooks(<ReportsFrame />, {
    place: { path: 'reports/*', address: 'reports/profit' },
    query: '?from=2026-01-01&to=2026-03-31',
  });
  const list = await screen.findByRole('navigation', { name: 'Reports' });
  expect(within(list).getByRole('link', { current: 'page' }).textContent).toBe('Profit and loss');
  await user.click(within(list).getByRole('link', { name: 'Trial balance' }));
  expect(router.state.location).toMatchObject({
    pathname: '/books/books/reports/trial-balance',
    search: '?from=2026-01-01&to=2026-03-31',
  });
  expect(within(list).getByRole('link', { current: 'page' }).textContent).toBe('Trial balance');
});
