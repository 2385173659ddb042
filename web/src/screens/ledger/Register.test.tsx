import { screen, waitFor, within } from '@testing-library/react';
import type { LedgerRow, LedgerRows } from '@zubrell/contract/ledger';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { type Answers, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testAccount, testBooks } from '../../testing/testBooks.ts';
import { testLedgerRow } from '../../testing/testLedgerRow.ts';
import { Register } from './Register.tsx';

const everyday = testAccount('1010', 'Everyday account', 'asset');
const sales = testAccount('4010', 'Sales of goods', 'income');

const row = (legId: string, change: Partial<LedgerRow> = {}) =>
  testLedgerRow({
    entryId: `entry ${legId}`,
    legId,
    accountId: '1010',
    date: '2026-03-12',
    text: 'TIDEMARK FRT',
    otherAccountIds: ['6010'],
    amount: -4_850,
    balance: 95_150,
    ...change,
  });

const page = (items: readonly LedgerRow[], change: Partial<LedgerRows> = {}): LedgerRows => ({
  items: [...items],
  next: null,
  count: items.length,
  debits: 0,
  credits: -4_850,
  ...change,
});

async function shown(answer: Answers[string], account = everyday) {
  const onEntry = vi.fn();
  const setup = { ...testBooks(), accounts: [...testBooks().accounts, everyday] };
  const view = renderInBooks(<Register account={account} entryId={null} onEntry={onEntry} />, {
    setup,
    answers: { [`GET /accounts/${account.id}/register`]: answer },
  });
  return { ...view, onEntry };
}

const cells = (text: string) =>
  within(screen.getByRole('row', { name: new RegExp(text) }))
    .getAllByRole('cell')
    .map(({ textContent }) => textContent);

// A register of many rows shows those in view.
beforeAll(() => {
  Element.prototype.scrollTo = () => undefined;
});

describe('a register', () => {
  it('shows each entry with the balance after it, and opens one', async () => {
    const { user, onEntry } = await shown(page([row('a')]));
    await screen.findByRole('table');
    expect(cells('TIDEMARK FRT')).toEqual([
      '12 Mar',
      'Tidemark Freight',
      'TIDEMARK FRT',
      '6010 Freight out',
      '−48.50',
      '951.50',
    ]);
    expect(screen.getByText(/^1 entry, debits/).textContent).toBe(
      '1 entry, debits 0.00, credits 48.50, −48.50 net',
    );
    await user.click(screen.getByRole('button', { name: 'TIDEMARK FRT' }));
    expect(onEntry).toHaveBeenCalledWith('entry a');
  });

  it('says what the bank has not reported, what is late, and what else the bank said', async () => {
    await shown(
      page([
        row('cheque', { text: '', kind: 'payment', number: '001042', lineCount: 0 }),
        row('late', { text: 'LATE FEE', bankDate: '2026-02-27', turned: 0 }),
        row('undone', { text: 'UNDONE FEE', bankDate: '2026-02-26', turned: -1 }),
        row('ref', { text: 'HARROW', reference: 'INV 77', method: 'DIRECT DEBIT' }),
        row('plain', { text: 'HEXHAM', reference: 'HEXHAM', method: 'CREDIT' }),
      ]),
    );
    await screen.findByRole('table');
    expect(cells('001042')[3]).toBe('not at the bank yet 6010 Freight out');
    expect(cells('LATE FEE')[0]).toBe('12 Mar late');
    expect(cells('UNDONE FEE')[0]).toBe('12 Mar undone late');
    expect(cells('HARROW')[2]).toBe('HARROWDIRECT DEBIT · INV 77');
    // What says no more than the sign, or was said already, is left out.
    expect(cells('HEXHAM')[2]).toBe('HEXHAM');
  });

  it('of income counts what came as more', async () => {
    await shown(
      page([row('sale', { text: 'STALL', amount: -12_000, balance: -12_000 })], {
        credits: -12_000,
      }),
      sales,
    );
    await screen.findByRole('table');
    expect(cells('STALL').slice(-2)).toEqual(['120.00', '120.00']);
    expect(screen.queryByRole('button', { name: 'Add a line' })).toBeNull();
  });

  it('asks the server for what is searched, and says where nothing matches', async () => {
    const { user, sent } = await shown((query) =>
      query.get('search') === 'kiln' ? page([]) : page([row('a')]),
    );
    await screen.findByRole('table');
    await user.type(screen.getByRole('searchbox', { name: 'Search this account' }), 'kiln');
    await screen.findByText('No entries match');
    expect(sent.filter(({ path }) => path.includes('search=')).length).toBe(1);
  });

  it('says where its entries come from while it has none', async () => {
    await shown(page([]));
    await screen.findByText('No entries yet');
    expect(screen.getByText('Lines posted to this account on the Desk appear here.')).toBeTruthy();
  });

  it('goes on to older entries', async () => {
    const { user } = await shown((query) =>
      query.get('cursor') === null
        ? page([row('new')], { next: 'more', count: 2 })
        : page([row('old', { text: 'OLDER' })], { count: 2 }),
    );
    await user.click(await screen.findByRole('button', { name: 'Older entries' }));
    await screen.findByText('OLDER');
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Older entries' })).toBeNull());
    expect(screen.getAllByRole('row')).toHaveLength(3);
  });
});
