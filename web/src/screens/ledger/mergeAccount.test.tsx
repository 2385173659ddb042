import { screen, waitFor } from '@testing-library/react';
import type { Account } from '@zubrell/contract/books';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { AccountChange } from './AccountChange.tsx';
import { chartRows } from './chartRows.ts';

const setup = testBooks();
const freight = setup.accounts.find(({ code }) => code === '6010') as Account;
const couriers: Account = { ...freight, id: '6011', code: '6011', name: 'Couriers' };
const gone: Account = { ...couriers, id: '6012', code: '6012', mergedInto: '6010', isOn: false };
const books = { ...setup, accounts: [...setup.accounts, couriers, gone] };

describe('merging an account', () => {
  it('offers accounts of the same type that stand, and sends the one chosen', async () => {
    const { user, sent } = renderInBooks(<AccountChange account={freight} />, {
      setup: books,
      answers: { 'POST /accounts/6010/merge': { words: 'Merged', step: 4 } },
    });
    await user.click(screen.getByRole('button', { name: 'Merge' }));
    const choices = screen.getAllByRole('option').map(({ textContent }) => textContent);
    expect(choices).toContain('6011 Couriers');
    const isWrong = (label: string | null) => /^(6010|6012|4000) /.test(label ?? '');
    expect(choices.filter(isWrong)).toEqual([]);
    await user.selectOptions(screen.getByLabelText('Into'), '6011');
    await user.click(screen.getByRole('button', { name: 'Merge accounts' }));
    await waitFor(() =>
      expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({ into: '6011' }),
    );
  });

  it('is not offered for an account that the program uses', () => {
    renderInBooks(<AccountChange account={{ ...freight, role: 'suspense' }} />, { setup: books });
    expect(screen.queryByRole('button', { name: 'Merge' })).toBeNull();
  });

  it('leaves what was merged out of the saved chart', () => {
    expect(chartRows(books).map(({ code }) => code)).not.toContain('6012');
  });
});
