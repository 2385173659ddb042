import { screen, within } from '@testing-library/react';
import type { PairRow } from '@zubrell/contract/pairing';
import { expect, it, vi } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBill } from '../../testing/testBill.ts';
import { OfferRows } from './OfferRows.tsx';
import type { Offer } from './pairingShown.ts';

function shown(offer: Offer, change: Partial<Parameters<typeof OfferRows>[0]> = {}) {
  const onTick = vi.fn();
  const all = { heading: null, offers: [offer], ticked: [], currentId: null, bank: -4_050 };
  const given = renderInBooks(
    <table>
      <OfferRows {...all} {...change} onTick={onTick} />
    </table>,
  );
  return { ...given, onTick };
}
const one = (change: Partial<PairRow> = {}): Offer => {
  const row = testBill('2093', change);
  return { kind: 'one', id: row.id, row };
};
const set = (by: number, ...rows: readonly PairRow[]): Offer => ({
  kind: 'set',
  id: 'set',
  set: { rows: [...rows], because: 'payee', likeness: 3, by },
});
const cells = (at = 0) =>
  within(screen.getAllByRole('row')[at] ?? expect.unreachable())
    .getAllByRole('cell')
    .map(({ textContent }) => textContent);

it('says what it is, with whom, when, for how much, and that nothing is off', () => {
  shown(one({ named: ['2093'], likeness: 3 }), { heading: 'Fits' });
  expect(screen.getByRole('rowheader', { name: 'Fits' })).toBeTruthy();
  expect(cells(1).slice(2)).toEqual([
    'Bill 2093',
    'Tidemark Freight',
    '01 Mar, due 15 Mar',
    '40.50',
    '0.00',
  ]);
  expect(screen.getByRole('img', { name: '3 of 4' }).querySelectorAll('.full')).toHaveLength(3);
  expect(screen.getByText('2093').tagName).toBe('MARK');
});

it('says what differs from the line', () => {
  shown(
    one({
      differences: [
        { kind: 'payee' },
        { kind: 'number' },
        { kind: 'date', days: -1 },
        { kind: 'amount', by: -120, because: null },
      ],
    }),
    { bank: -4_170 },
  );
  const [name, payee, dates, , off] = cells().slice(2);
  expect(name).toBe('Bill 2093another number');
  expect(screen.getByText('Tidemark Freight').className).toBe('off-by');
  expect([payee, dates, off]).toEqual([
    'Tidemark Freight',
    '01 Mar, due 15 Mar, 1 day after',
    '1.20',
  ]);
});

it('says how much is off where that is no difference of the offer itself', () => {
  shown(one(), { bank: -5_000 });
  expect(cells().at(-1)).toBe('9.50');
});

it('shows what is in another currency in it, with what that is worth', () => {
  shown(one({ original: { currency: 'USD', amount: -4_500 } }));
  expect(cells()[5]).toBe('45.00 USDas 40.50');
});

it('says which bills a payment pays', () => {
  shown(one({ kind: 'payment', number: null, pays: ['2093', '2094'] }));
  expect(cells()[2]).toBe('Paymentpays 2093, 2094');
});

it('is ticked by its row or its box, once', async () => {
  const { user, onTick } = shown(one());
  await user.click(screen.getByText('Tidemark Freight'));
  expect(onTick).toHaveBeenCalledTimes(1);
  await user.click(screen.getByRole('checkbox', { name: 'Bill 2093' }));
  expect(onTick).toHaveBeenCalledTimes(2);
});

it('can’t be ticked where it is paired already', async () => {
  const { user, onTick } = shown(
    one({ pairedWith: { date: '2026-03-04', description: 'TIDEMARK' } }),
  );
  await user.click(screen.getByText('Tidemark Freight'));
  expect(screen.getByRole<HTMLInputElement>('checkbox').disabled).toBe(true);
  expect(onTick).not.toHaveBeenCalled();
  expect(cells().at(-1)).toBe('paired 04 Mar');
});

it('of several that add up shows each where it is ticked or stood on', () => {
  const rows = [testBill('2093'), testBill('2094', { dueDate: '2026-03-20' })];
  shown(set(0, ...rows), { bank: -8_100 });
  expect(screen.getAllByRole('row')).toHaveLength(1);
  expect(cells().slice(2)).toEqual([
    '2 bills that add up',
    'Tidemark Freight',
    '15 Mar to 20 Mar',
    '81.00',
    '0.00',
  ]);
});

it('of several payees names them below, and what was kept back', () => {
  const rows = [testBill('2093'), testBill('77', { payee: 'Harrow Tools', payeeId: 'harrow' })];
  shown(set(-150, ...rows), { currentId: 'set' });
  expect(cells().slice(2)).toEqual([
    '2 bills less a fee',
    '2 payees',
    '15 Mar',
    '81.00',
    '1.50, fee kept back?',
  ]);
  expect([1, 2].map((at) => cells(at)[3])).toEqual(['Tidemark Freight', 'Harrow Tools']);
});
