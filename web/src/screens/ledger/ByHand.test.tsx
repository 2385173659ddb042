import { screen, waitFor } from '@testing-library/react';
import { expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { ByHand } from './ByHand.tsx';

const [everyday] = testBooks().bankAccounts;
if (!everyday) throw new Error('no bank account to write on');
const cash = { ...everyday, id: 'cash', name: 'Cash box', kind: 'cash' as const };

it('adds a line of today, and is closed with it', async () => {
  const { user, sent } = renderInBooks(<ByHand bankAccount={everyday} />, {
    answers: { 'POST /bank-accounts/everyday/lines': { step: 7, words: 'Added 1 line' } },
  });
  await user.click(screen.getByRole('button', { name: 'Add a line' }));
  const save = screen.getByRole('button', { name: 'Add line' });
  expect(save.hasAttribute('disabled')).toBe(true);
  await user.type(screen.getByRole('textbox', { name: 'Amount' }), '-12.50');
  await user.type(screen.getByRole('textbox', { name: 'Description' }), 'Parking');
  await user.click(save);
  await screen.findByRole('button', { name: 'Add a line' });
  expect(sent.at(-1)?.body).toEqual({
    date: '2026-03-31',
    amount: -1_250,
    description: 'Parking',
    reference: null,
  });
});

it('records a count of cash, and stays open where it is refused', async () => {
  const { user, sent } = renderInBooks(<ByHand bankAccount={cash} />, {
    answers: {
      'POST /bank-accounts/cash/balances': problem('PERIOD_CLOSED', {
        date: '31 March 2026',
        closed: '31 March 2026',
      }),
    },
  });
  await user.click(screen.getByRole('button', { name: 'Record a cash count' }));
  expect(screen.queryByRole('textbox', { name: 'Description' })).toBeNull();
  await user.type(screen.getByRole('textbox', { name: 'Amount' }), '80');
  await user.click(screen.getByRole('button', { name: 'Record balance' }));
  await screen.findByText(/closed/);
  expect(sent.at(-1)?.body).toEqual({ date: '2026-03-31', amount: 8_000 });
  await user.click(screen.getByRole('button', { name: 'Cancel' }));
  await waitFor(() => expect(screen.queryByRole('textbox', { name: 'Amount' })).toBeNull());
});
