import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testAccount, testBooks } from '../../testing/testBooks.ts';
import { OpeningBalancesPage } from './OpeningBalancesPage.tsx';
import { openingAccounts, openingJournal, openingRest } from './openingBalances.ts';

const accounts = [
  testAccount('1500', 'Equipment', 'asset'),
  testAccount('1300', 'Receivables', 'asset', 'receivables'),
  testAccount('2300', 'Loan', 'liability'),
  testAccount('3010', 'Opening equity', 'equity', 'openingEquity'),
  testAccount('3100', 'Drawings', 'equity'),
  testAccount('6010', 'Freight out', 'expense'),
];
const setup = { ...testBooks(), accounts };

describe('opening balances', () => {
  it('are of what has a balance and is neither the bank’s nor made of documents', () => {
    expect(openingAccounts(setup).map(({ code }) => code)).toEqual(['1500', '2300', '3100']);
  });

  it('become one entry that balances against opening equity', () => {
    const own = openingAccounts(setup);
    const amounts = { 1500: 800_000, 2300: 500_000, 3100: -20_000 };
    expect(openingRest(own, amounts)).toBe(320_000);
    const { entry } = openingJournal(own, amounts, { date: '2025-12-31', equityId: '3010' }) ?? {};
    expect(entry).toMatchObject({
      kind: 'journal',
      date: '2025-12-31',
      legs: [
        { accountId: '1500', amount: 800_000 },
        { accountId: '2300', amount: -500_000 },
        { accountId: '3100', amount: 20_000 },
        { accountId: '3010', amount: -320_000 },
      ],
    });
    expect(openingJournal(own, {}, { date: '2025-12-31', equityId: '3010' })).toBeNull();
  });

  it('are typed as a balance sheet has them, and posted for the day before the year', async () => {
    const { user, sent } = renderInBooks(<OpeningBalancesPage />, {
      setup,
      answers: { 'POST /entries': { id: 'e', step: 3, words: 'Entered a journal' } },
    });
    const post = screen.getByRole('button', { name: 'Post opening balances' });
    expect(post).toHaveProperty('disabled', true);
    await user.type(screen.getByLabelText('Opening balance of 1500 Equipment'), '8000{Tab}');
    await user.type(screen.getByLabelText('Opening balance of 2300 Loan'), '5000{Tab}');
    expect(screen.getByRole('row', { name: /^3010 Opening equity/ }).textContent).toContain(
      '3,000.00',
    );
    await user.click(post);
    await waitFor(() =>
      expect(sent.find(({ path }) => path === '/entries')?.body).toMatchObject({
        entry: {
          date: '2025-12-31',
          legs: [
            { accountId: '1500', amount: 800_000 },
            { accountId: '2300', amount: -500_000 },
            { accountId: '3010', amount: -300_000 },
          ],
        },
      }),
    );
  });
});
