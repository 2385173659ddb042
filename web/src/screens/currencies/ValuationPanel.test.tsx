import { screen, waitFor, within } from '@testing-library/react';
import type { Valuation } from '@zubrell/contract/currencies';
import { expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { ValuationPanel } from './ValuationPanel.tsx';

const item: Valuation['items'][number] = {
  kind: 'bank',
  name: 'Dollar account',
  accountId: '1030',
  currency: 'USD',
  original: 100_000,
  stands: 92_000,
  rate: '0.91',
  worth: 91_000,
};
const bills: typeof item = {
  ...item,
  kind: 'payables',
  name: null,
  accountId: '2000',
  original: -20_000,
  stands: -18_600,
  worth: -18_200,
};
const shown = (items: readonly (typeof item)[], change: object = {}, setup = testBooks()) =>
  renderInBooks(<ValuationPanel />, {
    setup,
    answers: {
      'GET /valuation': (query) => ({ date: query.get('date'), items, entryId: null, ...change }),
      'POST /valuation': { step: 8, words: 'Valued other currencies at 28 February 2026' },
    },
  });
const rows = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => [...row.children].map(({ textContent }) => textContent));

it('shows what the rate of the day makes of what is open, and what is gained or lost', async () => {
  const { sent } = shown([item, bills]);
  await screen.findByRole('table');
  expect(rows()).toEqual([
    ['Dollar account', '1,000.00 USD', '920.00', '0.91', '910.00', '−10.00'],
    ['Open bills', '−200.00 USD', '−186.00', '0.91', '−182.00', '+4.00'],
    ['Total', '−6.00'],
  ]);
  expect(sent.at(-1)?.path).toContain('date=2026-02-28');
});

it('is posted once every rate is known', async () => {
  const { user, sent } = shown([item]);
  await user.click(await screen.findByRole('button', { name: 'Post valuation' }));
  await waitFor(() => expect(sent.some(({ method }) => method === 'POST')).toBe(true));
  expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({ date: '2026-02-28' });
});

it('can’t be posted without a rate, and says which is missing', async () => {
  shown([{ ...item, rate: null, worth: null }]);
  const row = within((await screen.findByText('Dollar account')).closest('tr') ?? document.body);
  expect(row.getByText('no rate near that day')).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Post valuation' }).hasAttribute('disabled')).toBe(
    true,
  );
});

it('leads to the entry of a day that was valued, and is not a reviewer’s to post', async () => {
  shown([item], { entryId: 'entry' }, testBooks({ role: 'reviewer' }));
  await screen.findByRole('table');
  expect(screen.queryByRole('button', { name: /Post valuation/ })).toBeNull();
});

it('says where nothing is open, and where it can’t be told', async () => {
  const { unmount } = shown([]);
  await screen.findByText('Nothing is open in other currencies on 28 February 2026.');
  unmount();
  renderInBooks(<ValuationPanel />, { answers: { 'GET /valuation': problem('BOOKS_UNKNOWN') } });
  expect((await screen.findByRole('alert')).textContent).not.toBe('');
});
