import { screen, within } from '@testing-library/react';
import type { TriedLine } from '@zubrell/contract/rules';
import { expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { TriedTable } from './TriedTable.tsx';

const line = (id: string, more: Partial<TriedLine> = {}): TriedLine => ({
  id,
  bankAccountId: 'everyday',
  date: '2026-03-03',
  amount: -1_133,
  description: `PARCEL LOCKER ${id}`,
  reference: null,
  payee: null,
  stem: 'PARCEL LOCKER',
  state: 'posted',
  accountIds: ['6010'],
  taxCodeId: null,
  isSame: true,
  source: 'hand',
  sourceRuleId: null,
  isChanged: false,
  earlierRuleId: null,
  missed: null,
  ...more,
});
const shown = (lines: readonly TriedLine[]) =>
  renderInBooks(
    <TriedTable
      lines={lines}
      words={['locker']}
      numberOf={(id) => (id === 'first' ? 1 : null)}
      empty="No line is like that."
    />,
  );
const cells = (at: number) =>
  within(screen.getAllByRole('row')[at] as HTMLElement)
    .getAllByRole('cell')
    .map(({ textContent }) => textContent);

it('shows how lines were coded, which differ, and what marks them', () => {
  shown([
    line('1'),
    line('2', { isSame: false, accountIds: ['6020', '6020'] }),
    line('3', { state: 'open', isSame: null, accountIds: [] }),
  ]);
  expect(cells(1)).toEqual(['03 Mar', 'PARCEL LOCKER 1', '−11.33', '6010 Freight out', 'by hand']);
  expect(cells(2)[3]).toBe('6020 Market and stall fees');
  expect(cells(3)[3]).toBe('open');
  const [, first, second] = screen.getAllByRole('row');
  expect(first?.className).toBe('');
  expect(second?.className).toBe('differs');
  expect([...(first?.querySelectorAll('mark') ?? [])].map((each) => each.textContent)).toEqual([
    'LOCKER',
  ]);
});

it('says which rule takes a line before, or what it just misses', async () => {
  const { user } = shown([
    line('1', { earlierRuleId: 'first', amount: -900 }),
    line('2', { earlierRuleId: 'gone', amount: -500 }),
    line('3', { missed: 'amount', amount: -700 }),
  ]);
  expect([1, 2, 3].map((at) => cells(at)[4])).toEqual([
    'goes to rule 1',
    'goes to rule —',
    expect.stringMatching(/^but for /),
  ]);
  await user.click(screen.getByRole('button', { name: 'Amount' }));
  expect([1, 2, 3].map((at) => cells(at)[2])).toEqual(['−9.00', '−7.00', '−5.00']);
});

it('says where there is none', () => {
  shown([]);
  expect(screen.getByText('No line is like that.')).toBeDefined();
});
