import { cleanup, render, screen, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { afterEach, expect, it } from 'vitest';
import { type Column, DataTable } from './DataTable.tsx';

afterEach(cleanup);

interface Bill {
  readonly id: string;
  readonly payee: string;
  readonly amount: number;
}

const BILLS: readonly Bill[] = [
  { id: 'a', payee: 'Thornby', amount: 9_600 },
  { id: 'b', payee: 'gorsefield', amount: 29_850 },
  { id: 'c', payee: 'Élan', amount: 500 },
  { id: 'd', payee: 'Bill 10', amount: 1_000 },
  { id: 'e', payee: 'Bill 9', amount: 1_000 },
];
const COLUMNS: readonly Column<Bill>[] = [
  { id: 'payee', head: 'Payee', cell: ({ payee }) => payee, sortBy: ({ payee }) => payee },
  {
    id: 'amount',
    head: 'Amount',
    className: 'num',
    cellClass: ({ amount }) => (amount > 9_000 ? 'large' : ''),
    cell: ({ amount }) => amount / 100,
    sortBy: ({ amount }) => amount,
  },
  { id: 'note', head: 'Note', cell: () => 'paid by post', title: ({ id }) => `of ${id}` },
];

function shown() {
  render(
    <DataTable
      rows={BILLS}
      columns={COLUMNS}
      rowKey={({ id }) => id}
      rowClass={({ id }) => (id === 'b' ? 'current' : '')}
    />,
  );
  const order = () =>
    screen
      .getAllByRole('row')
      .slice(1)
      .map((row) => within(row).getAllByRole('cell')[0]?.textContent);
  return { user: userEvent.setup(), order };
}

it('shows rows as they come, each cell with what it is', () => {
  const { order } = shown();
  expect(order()).toEqual(BILLS.map(({ payee }) => payee));
  const [, , second] = screen.getAllByRole('row');
  expect(second?.className).toBe('current');
  const [, amount, note] = within(second as HTMLElement).getAllByRole('cell');
  expect(amount?.className).toBe('num large');
  expect(amount?.textContent).toBe('298.5');
  expect(note?.title).toBe('of b');
});

it('is put in order by a head, the other way by pressing it again, and back', async () => {
  const { user, order } = shown();
  const head = screen.getByRole('columnheader', { name: 'Amount' });
  const press = () => user.click(within(head).getByRole('button', { name: 'Amount' }));
  expect(head.getAttribute('aria-sort')).toBeNull();
  await press();
  expect(order()).toEqual(['Élan', 'Bill 10', 'Bill 9', 'Thornby', 'gorsefield']);
  expect(head.getAttribute('aria-sort')).toBe('ascending');
  await press();
  expect(order()).toEqual(['gorsefield', 'Thornby', 'Bill 10', 'Bill 9', 'Élan']);
  expect(head.getAttribute('aria-sort')).toBe('descending');
  await press();
  expect(order()).toEqual(BILLS.map(({ payee }) => payee));
});

it('orders texts as people do: without case and accents, numbers in them by size', async () => {
  const { user, order } = shown();
  await user.click(screen.getByRole('button', { name: 'Payee' }));
  expect(order()).toEqual(['Bill 9', 'Bill 10', 'Élan', 'gorsefield', 'Thornby']);
});

it('offers no order by what says nothing', () => {
  shown();
  expect(screen.queryByRole('button', { name: 'Note' })).toBeNull();
});
