import { screen, waitFor } from '@testing-library/react';
import type { BankAccount } from '@zubrell/contract/books';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks, testPayee } from '../../testing/testBooks.ts';
import { OpeningNote } from './OpeningNote.tsx';

const books = testBooks();
const [everyday] = books.bankAccounts;
const setup = {
  ...books,
  payees: [{ ...testPayee, id: 'alder', name: 'Alder Yard', kind: 'customer' as const }],
};
const account = (change: Partial<BankAccount>): BankAccount => {
  if (!everyday) throw new Error('no bank account');
  return { ...everyday, kind: 'clientMoney', ...change };
};
const opening = { date: '2026-02-28', amount: 9_000, clients: [] };

describe('the opening balance of clients’ money', () => {
  it('is told later whose it is', async () => {
    const { user, sent } = renderInBooks(<OpeningNote bankAccount={account({ opening })} />, {
      setup,
      answers: { 'PUT /bank-accounts/everyday/opening/clients': { step: 4, words: 'Said so' } },
    });
    expect(screen.getByText('Opened with 90.00 on 28 February 2026.')).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Enter whose money it is' }));
    await user.click(screen.getByRole('button', { name: 'Add a client' }));
    await user.click(screen.getByLabelText('Client 1'));
    await user.click(await screen.findByRole('option', { name: /Alder Yard/ }));
    await user.type(screen.getByLabelText('Amount of client 1'), '60.00');
    await user.tab();
    // One that is begun and not whole is left out.
    await user.click(screen.getByRole('button', { name: 'Add a client' }));
    await user.click(screen.getByRole('button', { name: 'Save clients' }));
    await waitFor(() => expect(sent.some(({ method }) => method === 'PUT')).toBe(true));
    expect(sent.find(({ method }) => method === 'PUT')?.body).toEqual({
      clients: [{ clientId: 'alder', amount: 6_000 }],
    });
  });

  it('is posted with its clients where there is none yet', async () => {
    const { user, sent } = renderInBooks(<OpeningNote bankAccount={account({})} />, {
      setup,
      answers: { 'POST /bank-accounts/everyday/opening': { step: 4, words: 'Posted' } },
    });
    await user.type(screen.getByLabelText('Balance'), '90.00');
    await user.click(screen.getByRole('button', { name: 'Add a client' }));
    await user.click(screen.getByLabelText('Client 1'));
    await user.click(await screen.findByRole('option', { name: /Alder Yard/ }));
    await user.type(screen.getByLabelText('Amount of client 1'), '90.00');
    await user.tab();
    await user.click(screen.getByRole('button', { name: 'Post opening balance' }));
    await waitFor(() => expect(sent.some(({ method }) => method === 'POST')).toBe(true));
    expect(sent.find(({ method }) => method === 'POST')?.body).toMatchObject({
      amount: 9_000,
      clients: [{ clientId: 'alder', amount: 9_000 }],
    });
  });

  it('asks nothing of the kind on other accounts', () => {
    renderInBooks(<OpeningNote bankAccount={account({ kind: 'current', opening })} />, { setup });
    expect(screen.queryByRole('button', { name: 'Enter whose money it is' })).toBeNull();
  });
});
