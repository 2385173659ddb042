import { screen, waitFor, within } from '@testing-library/react';
import type { BatchSheet } from '@zubrell/contract/intake';
import { expect, it, vi } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { MoveBatchDialog } from './MoveBatchDialog.tsx';

const setup = testBooks();
const [everyday] = setup.bankAccounts;
if (!everyday) throw new Error('the tests’ books have a bank account');
setup.bankAccounts = [
  everyday,
  { ...everyday, id: 'pot', name: 'Tax pot', accountId: '1020' },
  { ...everyday, id: 'card', name: 'Studio card', kind: 'card', accountId: '2110' },
];

function open(ownDecided: number, answer: object | (() => object)) {
  const batch = {
    id: 'here',
    bankAccountId: 'everyday',
    fileName: 'march.ofx',
    counts: { open: 3, posted: ownDecided, excluded: 0, shared: 0, ownDecided },
  } as BatchSheet;
  const onClose = vi.fn();
  const view = renderInBooks(<MoveBatchDialog batch={batch} onClose={onClose} />, {
    setup,
    answers: { 'POST /batches/here/move': answer },
    place: { path: 'intake/:batchId', address: 'intake/here' },
  });
  return { ...view, onClose };
}

it('an import goes to another bank account, and Intake shows it there', async () => {
  const { user, sent, router } = open(0, { step: 9, words: 'Moved march.ofx to Studio card' });
  const dialog = within(await screen.findByRole('dialog', { name: 'Move import of march.ofx' }));
  const field = dialog.getByLabelText(/^From Everyday account/);
  expect(within(field).getAllByRole('option')).toHaveLength(2);
  expect(dialog.queryByText(/decided so far/)).toBeNull();
  await user.selectOptions(field, 'card');
  await user.click(dialog.getByRole('button', { name: 'Move import' }));
  await waitFor(() => expect(router.state.location.pathname).toBe('/books/books/intake'));
  expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({ bankAccountId: 'card' });
});

it.each([
  [1, /The 1 line decided so far is reopened\./],
  [4, /The 4 lines decided so far are reopened\./],
])('moving an import says what becomes of decided lines (%i)', async (count, words) => {
  open(count, {});
  expect(await screen.findByText(words)).toBeDefined();
});

it('an import that can’t be moved stays, and the dialog says why', async () => {
  const { user, router, onClose } = open(0, () => problem('BANK_ACCOUNT_UNKNOWN'));
  await user.click(await screen.findByRole('button', { name: 'Move import' }));
  expect(await screen.findByText(/That bank account is not in these books/)).toBeDefined();
  expect(router.state.location.pathname).toBe('/books/books/intake/here');
  await user.click(screen.getByRole('button', { name: 'Cancel' }));
  expect(onClose).toHaveBeenCalledOnce();
});
