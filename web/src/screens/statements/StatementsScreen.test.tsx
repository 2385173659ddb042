import { screen } from '@testing-library/react';
import type { AccountStatements } from '@zubrell/contract/statements';
import { expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testStatement } from '../../testing/testStatement.ts';
import { StatementsScreen } from './StatementsScreen.tsx';

const month = (number: number, more: Partial<AccountStatements['statements'][number]> = {}) => {
  const two = String(number).padStart(2, '0');
  return testStatement({ from: `2025-${two}-01`, to: `2025-${two}-28`, ...more });
};
const account = (more: Partial<AccountStatements> = {}): AccountStatements => ({
  bankAccountId: 'everyday',
  cycle: { kind: 'day', day: 8 },
  closedTo: null,
  hasOpening: true,
  isTicked: false,
  statements: [1, 2, 3, 4, 5, 6, 7, 8].map((number) => month(number)),
  ...more,
});
const show = (one: AccountStatements) =>
  renderInBooks(<StatementsScreen />, {
    answers: {
      'GET /statements': { accounts: [one] },
      'PUT /bank-accounts/everyday/cycle': { step: 3, words: 'Set' },
    },
  });

it('shows the newest statements first, and the older ones when asked', async () => {
  const { user } = show(account());
  expect(await screen.findByText('ends on day 8 of the month')).toBeDefined();
  expect(screen.getAllByRole('row')[1]?.textContent).toContain('1 August to 28 August 2025');
  expect(screen.queryByText('1 January to 28 January 2025')).toBeNull();
  await user.click(screen.getByText('Show 2 older statements'));
  expect(screen.getByText('1 January to 28 January 2025')).toBeDefined();
});

it('says what each still needs, and what has changed since it was agreed', async () => {
  const statements = [
    month(1, { state: 'agreed', changedCount: 2, lineCount: 1_302 }),
    month(2, { closing: null, off: null }),
    month(3, { off: 5_800 }),
    month(4, { openCount: 3 }),
  ];
  show(account({ statements, hasOpening: false }));
  expect(await screen.findByText('agreed, 2 changed since')).toBeDefined();
  expect(screen.getByText('1,302')).toBeDefined();
  expect(screen.getByText('no closing balance yet')).toBeDefined();
  expect(screen.getByText('off').className).toContain('trouble');
  expect(screen.getByText('adds up, 3 lines open')).toBeDefined();
  expect(screen.getByText(/no opening balance/)).toBeDefined();
});

it('changes the cycle to a day from 1 to 31', async () => {
  const { user, sent } = show(account());
  await user.click(await screen.findByText('Change cycle'));
  const day = await screen.findByLabelText('Day of the month');
  await user.clear(day);
  await user.type(day, '42');
  expect(screen.getByText('Save cycle').hasAttribute('disabled')).toBe(true);
  await user.clear(day);
  await user.type(day, '15');
  await user.click(screen.getByText('Save cycle'));
  expect(sent.find(({ method }) => method === 'PUT')?.body).toEqual({
    cycle: { kind: 'day', day: 15 },
  });
});

it('says how to begin where there is no bank account, and offers no month to close', async () => {
  renderInBooks(<StatementsScreen />, { answers: { 'GET /statements': { accounts: [] } } });
  const way = await screen.findByRole('link', { name: 'Import a file' });
  expect(way.getAttribute('href')).toMatch(/\/intake$/);
  expect(screen.queryByRole('link', { name: /^Close / })).toBeNull();
});

it('offers to close last month', async () => {
  show(account());
  const way = await screen.findByRole('link', { name: /^Close / });
  expect(way.getAttribute('href')).toMatch(/\/close\/\d{4}-\d{2}$/);
});
