import { screen, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testAccount, testBooks } from '../../testing/testBooks.ts';
import { AccountTree } from './AccountTree.tsx';

const setup = {
  ...testBooks(),
  accounts: [
    testAccount('1000', 'Assets', 'asset'),
    { ...testAccount('1500', 'Equipment', 'asset'), parentId: '1000' },
    // What was written off stands against the assets, with a credit.
    { ...testAccount('1590', 'Written off', 'liability'), parentId: '1000' },
    testAccount('4010', 'Sales of goods', 'income'),
    testAccount('6010', 'Freight out', 'expense'),
    { ...testAccount('6015', 'Postage', 'expense'), mergedInto: '6010' },
  ],
};
const balances = [
  { accountId: '1500', amount: 50_000 },
  { accountId: '1590', amount: -8_000 },
  { accountId: '4010', amount: -120_000 },
];
const shown = (answer: object) =>
  renderInBooks(<AccountTree currentId="4010" />, {
    setup,
    place: { path: 'ledger/:accountId', address: 'ledger/4010' },
    answers: { 'GET /balances': answer },
  });
const figures = () =>
  screen.getAllByRole('link').map((link) => [...link.children].map((part) => part.textContent));

it('shows each branch with what all below it come to, as debits or credits usually are', async () => {
  shown({ balances });
  await screen.findByText('1,200.00');
  expect(figures()).toEqual([
    ['1000', 'Assets', '420.00'],
    ['1500', 'Equipment', '500.00'],
    ['1590', 'Written off', '80.00'],
    ['4010', 'Sales of goods', '1,200.00'],
    ['6010', 'Freight out', '—'],
  ]);
  const current = screen.getByRole('link', { current: 'page' });
  expect(within(current).getByText('Sales of goods')).toBeTruthy();
  expect(current.getAttribute('href')).toBe('/books/books/ledger/4010');
});

it('leaves out what nothing was posted to, but not what stands above something', async () => {
  const { user } = shown({ balances });
  await screen.findByText('1,200.00');
  await user.click(screen.getByRole('checkbox'));
  expect(figures().map(([code]) => code)).toEqual(['1000', '1500', '1590', '4010']);
});

it('says why balances can’t be shown', async () => {
  shown(problem('BOOKS_UNKNOWN'));
  expect((await screen.findByRole('alert')).textContent).not.toBe('');
});
