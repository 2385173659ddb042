import { screen, waitFor, within } from '@testing-library/react';
import type { BooksSetup } from '@zubrell/contract/books';
import type { ClientMoney } from '@zubrell/contract/reports';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks, testPayee } from '../../testing/testBooks.ts';
import { ClientMoneyScreen } from './ClientMoneyScreen.tsx';
import { OwnersScreen } from './OwnersScreen.tsx';

const books = testBooks();
const [everyday] = books.bankAccounts;
const customer = (id: string, name: string) => ({
  ...testPayee,
  id,
  name,
  kind: 'customer' as const,
});
const setup: BooksSetup = {
  ...books,
  payees: [
    customer('alder', 'Alder Yard'),
    customer('birch', 'Birch House'),
    { ...testPayee, id: 'mo', name: 'Mo Oakes', kind: 'owner', accountId: '3020' },
  ],
  bankAccounts: everyday
    ? [{ ...everyday, id: 'trust', name: 'Clients', kind: 'clientMoney', accountId: '1020' }]
    : [],
};
const cells = (row: RegExp) =>
  within(screen.getByRole('row', { name: row }))
    .getAllByRole('cell')
    .map(({ textContent }) => textContent);
const QUERY = '?from=2026-03-01&to=2026-03-31';

describe('clients’ money', () => {
  const held = (unsaid: number): ClientMoney => ({
    accounts: [
      {
        bankAccountId: 'trust',
        held: 9_500 + unsaid,
        unsaid,
        clients: [
          { clientId: 'alder', opening: 6_000, in: 2_000, out: -500, closing: 7_500 },
          { clientId: 'birch', opening: 0, in: 2_000, out: 0, closing: 2_000 },
        ],
      },
    ],
  });

  it('says whose it is, comes to what the bank account holds, and opens what moved', async () => {
    const movement = { entryId: 'e1', legId: 'l1', accountId: '1020', payeeId: 'alder' };
    const { user, sent } = renderInBooks(<ClientMoneyScreen />, {
      setup,
      query: QUERY,
      answers: {
        'GET /reports/client-money': held(0),
        'GET /reports/client-movements': {
          movements: [
            { ...movement, date: '2026-02-28', text: 'DEPOSIT', amount: 6_000, balance: 6_000 },
            { ...movement, date: '2026-03-03', text: '', amount: -500, balance: 5_500 },
          ],
        },
      },
    });
    await screen.findByText('Whose money it is on 31 March 2026');
    expect(cells(/^Alder/)).toEqual(['60.00', '20.00', '−5.00', '75.00']);
    expect(cells(/^Held by/).at(-1)).toBe('95.00');
    expect(screen.queryByText('No client yet')).toBeNull();
    await user.click(screen.getByRole('button', { name: '75.00' }));
    const sheet = await screen.findByRole('complementary', { name: 'Money of Alder Yard' });
    expect(await within(sheet).findByText('DEPOSIT')).toBeDefined();
    expect(within(sheet).getByText('55.00')).toBeDefined();
    // What is there after the period is all that ever moved.
    expect(sent.at(-1)?.path).toBe(
      '/reports/client-movements?bankAccountId=trust&clientId=alder&from=1970-01-01&to=2026-03-31',
    );
    await user.click(screen.getByRole('button', { name: '60.00' }));
    await waitFor(() => expect(sent.at(-1)?.path).toMatch(/to=2026-02-28$/));
  });

  it('says what an opening balance left unsaid', async () => {
    renderInBooks(<ClientMoneyScreen />, {
      setup,
      query: QUERY,
      answers: { 'GET /reports/client-money': held(1_500) },
    });
    expect(await screen.findByRole('row', { name: /^No client yet/ })).toBeDefined();
    expect(cells(/^No client yet/).at(-1)).toBe('15.00');
    expect(screen.getByText(/the opening balance didn’t name one/)).toBeDefined();
  });

  it('says how to begin where no bank account holds any', async () => {
    renderInBooks(<ClientMoneyScreen />, {
      setup: books,
      query: QUERY,
      answers: { 'GET /reports/client-money': { accounts: [] } },
    });
    expect(await screen.findByText(/No bank account holds clients’ money/)).toBeDefined();
  });
});

describe('owners’ money', () => {
  it('stands by owner, without the profit', async () => {
    const totals = [
      { accountId: '3020', opening: 0, months: [12_000] },
      { accountId: '4010', opening: 0, months: [-90_000] },
    ];
    renderInBooks(<OwnersScreen />, {
      setup,
      query: QUERY,
      answers: {
        'GET /reports/totals': {
          from: '2026-03-01',
          to: '2026-03-31',
          months: ['2026-03'],
          totals,
          open: { count: 0, amount: 0 },
        },
      },
    });
    expect(
      await screen.findByText('0.00 put in, 120.00 taken out, without the profit'),
    ).toBeDefined();
    expect(screen.getByText('Mo Oakes')).toBeDefined();
    expect(cells(/^3020/)).toEqual(['—', '—', '−120.00', '−120.00']);
    expect(screen.queryByText(/4010/)).toBeNull();
  });
});
