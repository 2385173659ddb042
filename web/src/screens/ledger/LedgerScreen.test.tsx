import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { setRoomForRows } from '../../testing/roomForRows.ts';
import { testBooks } from '../../testing/testBooks.ts';
import { LedgerScreen } from './LedgerScreen.tsx';

setRoomForRows();

const open = (address: string, setup = testBooks(), answers: Answers = {}) =>
  renderInBooks(<LedgerScreen />, {
    place: { path: 'ledger/:accountId?', address },
    setup,
    answers: { 'GET /balances': { balances: [] }, ...answers },
  });

describe('the ledger', () => {
  it('asks for an account where none is chosen', async () => {
    open('ledger');
    expect(await screen.findByText('Choose an account')).toBeDefined();
    expect(screen.getByRole('complementary', { name: 'Chart of accounts' })).toBeDefined();
  });

  it('asks the register of the account that another was merged into', async () => {
    const setup = testBooks();
    const [first, second] = setup.accounts;
    if (!first || !second) throw new Error('there are two accounts');
    const merged = setup.accounts.map((each) =>
      each.id === first.id ? { ...each, mergedInto: second.id } : each,
    );
    const register = (id: string) => `/accounts/${id}/register`;
    const { sent } = open(
      `ledger/${first.id}`,
      { ...setup, accounts: merged },
      { [`GET ${register(second.id)}`]: () => problem('INTERNAL') },
    );
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    const asked = sent.map(({ path }) => path.replace(/\?.*/, ''));
    expect(asked).toContain(register(second.id));
    expect(asked).not.toContain(register(first.id));
  });

  it('makes an account or a bank account in a dialog', async () => {
    const { user } = open('ledger');
    await user.click(await screen.findByRole('button', { name: 'New account' }));
    const dialog = await screen.findByRole('dialog', { name: 'New account' });
    await user.click(within(dialog).getByRole('button', { name: 'Close' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    await user.click(screen.getByRole('button', { name: 'New bank account' }));
    expect(await screen.findByRole('dialog', { name: 'New bank account' })).toBeDefined();
  });

  it('offers no new account to who may make none', async () => {
    open('ledger', testBooks({ role: 'bookkeeper', accountsMadeBy: 'owner' }));
    await screen.findByText('Choose an account');
    expect(screen.queryByRole('button', { name: 'New account' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Import accounts' })).toBeNull();
  });
});
