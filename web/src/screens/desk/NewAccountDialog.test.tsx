import { screen, waitFor, within } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { NewAccountDialog } from './NewAccountDialog.tsx';

const FREIGHT = '7d7f5a0e-3c7b-4c57-9a34-6a8a1c1d6010';
const setup = testBooks();
setup.accounts = setup.accounts.map((account) =>
  account.code === '6010' ? { ...account, id: FREIGHT } : account,
);

function open(typed: string, isOut = true, answer: object | (() => object) = MADE) {
  const onMade = vi.fn();
  const view = renderInBooks(
    <NewAccountDialog typed={typed} isOut={isOut} onMade={onMade} onClose={vi.fn()} />,
    { answers: { 'POST /accounts': answer }, setup },
  );
  return { ...view, onMade };
}
const MADE = { step: 9, words: 'Created account 7300 Kiln repairs', id: 'made' };

const filled = async () => {
  const dialog = within(await screen.findByRole('dialog', { name: 'A new account' }));
  const typedIn = (label: string) => dialog.getByLabelText<HTMLInputElement>(label).value;
  return [typedIn('Code'), typedIn('Name'), typedIn('Type')];
};

it.each([
  // A code that was typed counts, and the next free one of its type otherwise.
  ['7300 Kiln repairs', true, ['7300', 'Kiln repairs', 'expense']],
  ['Kiln repairs', true, ['6030', 'Kiln repairs', 'expense']],
  ['  Courses ', false, ['4020', 'Courses', 'income']],
])('an account begins with what was typed (%s)', async (typed, isOut, fields) => {
  open(typed, isOut);
  expect(await filled()).toEqual(fields);
});

it('an account is made without leaving the line, below one of its type', async () => {
  const { user, sent, onMade } = open('7300 Kiln repairs');
  await filled();
  expect(within(screen.getByLabelText('Below')).queryByText('4010 Sales of goods')).toBeNull();
  await user.selectOptions(screen.getByLabelText('Below'), '6010 Freight out');
  await user.click(screen.getByRole('button', { name: 'Create account' }));
  await waitFor(() => expect(onMade).toHaveBeenCalledWith('made'));
  expect(sent.find(({ method }) => method === 'POST')?.body).toMatchObject({
    code: '7300',
    name: 'Kiln repairs',
    type: 'expense',
    parentId: FREIGHT,
  });
});

it('an account that is nearly there already is pointed out', async () => {
  open('7300 Freight  Out');
  expect(await screen.findByText('Very similar to 6010 Freight out.')).toBeDefined();
});

it('an account that can’t be made says why, and what was typed stays', async () => {
  const { user, onMade } = open('6010 Freight abroad', true, () =>
    problem('ACCOUNT_CODE_TAKEN', { code: '6010' }),
  );
  await filled();
  await user.click(screen.getByRole('button', { name: 'Create account' }));
  expect((await screen.findByRole('alert')).textContent).toContain('6010');
  expect(onMade).not.toHaveBeenCalled();
  expect((await filled())[1]).toBe('Freight abroad');
});
