import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testAccount, testBooks } from '../../testing/testBooks.ts';
import { AccountChange } from './AccountChange.tsx';

const CHANGE = 'PATCH /accounts/6010';
const done = { step: 8, words: 'Changed account 6010 Freight out' };
const setup = testBooks();
setup.accounts = [
  ...setup.accounts,
  { ...testAccount('6011', 'Freight abroad', 'expense'), parentId: '6010' },
];

function open(account = setup.accounts.find(({ code }) => code === '6010'), answers: Answers = {}) {
  if (!account) throw new Error('the account is one of the tests’ books');
  return renderInBooks(<AccountChange account={account} />, {
    setup,
    answers: { [CHANGE]: done, ...answers },
  });
}

const body = (sent: ReturnType<typeof open>['sent']) =>
  sent.find(({ method }) => method === 'PATCH')?.body;

describe('changing an account', () => {
  it('begins with what it is, and leaves what nobody touches', async () => {
    const { user, sent } = open(
      setup.accounts.find(({ code }) => code === '6011'),
      {
        'PATCH /accounts/6011': done,
      },
    );
    await user.click(await screen.findByRole('button', { name: 'Change' }));
    const dialog = within(await screen.findByRole('dialog', { name: '6011 Freight abroad' }));
    expect(dialog.getByLabelText<HTMLInputElement>('Code').value).toBe('6011');
    expect(dialog.getByLabelText<HTMLSelectElement>('Below').value).toBe('6010');
    await user.type(dialog.getByLabelText('Search words'), 'ferry customs');
    await user.click(dialog.getByRole('button', { name: 'Save account' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(body(sent)).toEqual({
      code: '6011',
      parentId: '6010',
      name: 'Freight abroad',
      purpose: 'ferry customs',
      tax: 'byType',
      role: null,
    });
  });

  it('takes a code of digits and capital letters, and no empty name', async () => {
    const { user, sent } = open();
    await user.click(await screen.findByRole('button', { name: 'Change' }));
    const dialog = within(await screen.findByRole('dialog'));
    const code = dialog.getByLabelText('Code');
    await user.clear(code);
    await user.click(dialog.getByRole('button', { name: 'Save account' }));
    expect(await dialog.findByText('A code is up to 12 digits or capital letters.')).toBeDefined();
    await user.type(code, 'freight');
    expect(await dialog.findByText('A code is up to 12 digits or capital letters.')).toBeDefined();
    await user.clear(dialog.getByLabelText('Name'));
    expect(dialog.getByRole('button', { name: 'Save account' })).toHaveProperty('disabled', true);
    expect(body(sent)).toBeUndefined();
  });

  it('stays open where the server refuses', async () => {
    const { user } = open(undefined, { [CHANGE]: () => problem('ACCOUNT_UNKNOWN') });
    await user.click(await screen.findByRole('button', { name: 'Change' }));
    const dialog = await screen.findByRole('dialog');
    await user.click(within(dialog).getByRole('button', { name: 'Save account' }));
    await waitFor(() => expect(screen.getByRole('dialog')).toBe(dialog));
  });

  it('does not offer another use where the program needs the one it has', async () => {
    const account = testAccount('2200', 'Tax collected', 'liability', 'outputTax');
    const { user } = open(account);
    await user.click(await screen.findByRole('button', { name: 'Change' }));
    const dialog = within(await screen.findByRole('dialog'));
    expect(dialog.queryByLabelText('Used for')).toBeNull();
    expect(screen.queryByRole('button', { name: 'Merge' })).toBeNull();
  });
});

it('an account is switched off by one press, and on again', async () => {
  const { user, sent } = open();
  await user.click(await screen.findByRole('button', { name: 'Switch off' }));
  await waitFor(() => expect(body(sent)).toEqual({ isOn: false }));
  const off = open({ ...testAccount('6010', 'Freight out', 'expense'), isOn: false });
  await off.user.click(await screen.findByRole('button', { name: 'Switch on' }));
  await waitFor(() => expect(body(off.sent)).toEqual({ isOn: true }));
});
