import { screen, within } from '@testing-library/react';
import type { OutstandingItem } from '@zubrell/contract/desk';
import { expect, it, vi } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../../testing/renderInBooks.tsx';
import { OutstandingDialog } from './OutstandingDialog.tsx';

const item = (more: Partial<OutstandingItem>): OutstandingItem => ({
  amount: -31_240,
  bankAccountId: 'everyday',
  date: '2026-02-27',
  lineId: null,
  entryId: 'cheque',
  text: null,
  kind: null,
  number: null,
  payee: null,
  ...more,
});

function open(answer: Answers[string]) {
  const onClose = vi.fn();
  const view = renderInBooks(
    <OutstandingDialog scope={{ bankAccountId: ['everyday'] } as never} onClose={onClose} />,
    {
      answers: { 'GET /proof/outstanding': answer },
    },
  );
  return { ...view, onClose };
}

it('what is not yet at the bank is listed by what it is called, and leads to its entry', async () => {
  const { user, onClose, router } = open({
    items: [
      item({ kind: 'cheque', number: '001042', payee: 'Penhallow Clay' }),
      item({ entryId: 'cash', text: 'Kiln shelves', amount: 5_000 }),
    ],
  });
  const dialog = within(await screen.findByRole('dialog', { name: 'Not yet at the bank' }));
  expect(await dialog.findByRole('link', { name: 'Cheque 001042, Penhallow Clay' })).toBeDefined();
  const [, cheque, cash] = dialog.getAllByRole('row').map(({ textContent }) => textContent);
  expect(cheque).toBe('27 FebEveryday accountCheque 001042, Penhallow Clay−312.40');
  expect(cash).toBe('27 FebEveryday accountKiln shelves+50.00');
  await user.click(dialog.getByRole('link', { name: 'Kiln shelves' }));
  expect(onClose).toHaveBeenCalledOnce();
  expect(router.state.location.search).toBe('?entry=cash');
});

it('what is not yet at the bank may not be had, and that is said', async () => {
  open(() => problem('BANK_ACCOUNT_UNKNOWN'));
  expect((await screen.findByRole('alert')).textContent).not.toBe('');
  expect(screen.queryByRole('table')).toBeNull();
});
