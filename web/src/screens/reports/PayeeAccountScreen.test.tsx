import { screen, within } from '@testing-library/react';
import type { LedgerRow } from '@zubrell/contract/ledger';
import { expect, it } from 'vitest';
import { type Answers, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testAccount, testBooks, testPayee } from '../../testing/testBooks.ts';
import { testLedgerRow } from '../../testing/testLedgerRow.ts';
import { PayeeAccountScreen } from './PayeeAccountScreen.tsx';

const row = (number: string, date: string, amount: number) =>
  testLedgerRow({
    entryId: `entry ${number}`,
    legId: number,
    accountId: '1100',
    date,
    payeeId: 'harbour',
    text: '',
    kind: amount > 0 ? 'document' : 'receipt',
    number,
    amount,
  });
const rows = (items: readonly LedgerRow[], next: string | null, debits: number, credits = 0) => ({
  items,
  next,
  count: items.length,
  debits,
  credits,
});

function shown(answer: Answers[string], query = '?payee=harbour&from=2026-03-01&to=2026-03-31') {
  const books = testBooks();
  return renderInBooks(<PayeeAccountScreen />, {
    query,
    setup: {
      ...books,
      accounts: [...books.accounts, testAccount('1100', 'Customers', 'asset', 'receivables')],
      payees: [
        ...books.payees,
        { ...testPayee, id: 'harbour', name: 'Harbour Gallery', kind: 'customer' },
      ],
    },
    answers: { 'GET /ledger-rows': answer },
  });
}

it('begins with what was left before, and goes on through every page', async () => {
  const pages = [
    rows([row('201', '2026-03-03', 12_000)], 'second', 12_000, -5_000),
    rows([row('R1', '2026-03-20', -5_000)], null, 12_000, -5_000),
  ];
  const { sent } = shown((query) => {
    if (query.get('order') === 'newest') return rows([row('200', '2026-02-02', 800)], null, 800);
    return pages[query.get('cursor') === 'second' ? 1 : 0] ?? {};
  });
  await screen.findByText(/^78\.00 owed on 31 March 2026$/);
  const balances = screen
    .getAllByRole('row')
    .slice(1)
    .map((each) => within(each).getAllByRole('cell').at(-1)?.textContent);
  expect(balances).toEqual(['8.00', '128.00', '78.00', '78.00']);
  const asked = sent.filter(({ path }) => path.includes('order=date'));
  expect(asked).toHaveLength(2);
  expect(asked.every(({ path }) => path.includes('payeeId=harbour'))).toBe(true);
});

it('says so where a customer has paid more than was owed', async () => {
  shown((query) =>
    query.get('order') === 'newest'
      ? rows([], null, 0)
      : rows([row('R2', '2026-03-05', -2_500)], null, 0, -2_500),
  );
  await screen.findByText(/^.25\.00 in credit on 31 March 2026$/);
});

it('asks for a customer first', async () => {
  const { user, router } = shown(rows([], null, 0), '');
  await screen.findByText('Choose a customer');
  await user.click(screen.getByRole('combobox', { name: 'Customer' }));
  // Suppliers have no such account.
  const options = await screen.findAllByRole('option');
  expect(options.map(({ textContent }) => textContent)).toEqual(['Harbour Gallery']);
  await user.click(screen.getByRole('option', { name: 'Harbour Gallery' }));
  expect(router.state.location.search).toContain('payee=harbour');
});
