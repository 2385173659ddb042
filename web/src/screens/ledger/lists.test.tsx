import { screen, within } from '@testing-library/react';
import type { Documents, ListedDocument } from '@zubrell/contract/documents';
import type { OutstandingEntry } from '@zubrell/contract/ledger';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { BillsPage } from './DocumentsPage.tsx';
import { EntriesPage } from './EntriesPage.tsx';

const bill = (number: string, more: Partial<ListedDocument>): ListedDocument => ({
  id: `bill ${number}`,
  kind: 'bill',
  side: 'payables',
  number,
  payeeId: 'tidemark',
  date: '2026-03-03',
  dueDate: '2026-04-02',
  amount: -31_240,
  open: -31_240,
  exchange: null,
  isVoid: false,
  entryId: 'entry',
  lastStep: 1,
  ...more,
});
const bills = (documents: readonly ListedDocument[]): Documents => ({
  documents: [...documents],
  ages: [
    { age: 'notDue', count: 1, amount: -31_240 },
    { age: 'to30', count: 2, amount: -9_600 },
  ],
  today: '2026-04-01',
  series: null,
});
const numbers = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getByRole('button').textContent);

describe('the list of bills', () => {
  const LATE = bill('T-88', { dueDate: '2026-03-07', amount: -9_600, open: -4_000 });
  const VOID = bill('2117', { dueDate: null, isVoid: true, open: 0 });

  it('shows what is open and how late it is, in the order of any column', async () => {
    const { user } = renderInBooks(<BillsPage />, {
      answers: { 'GET /documents': bills([bill('2093', {}), LATE, VOID]) },
    });
    await screen.findByRole('table');
    expect(numbers()).toEqual(['Bill 2093', 'Bill T-88', 'Bill 2117']);
    expect(screen.getByText('7 Mar', { exact: false }).className).toBe('doubt');
    expect(screen.getByText('02 Apr').className).toBe('');
    expect(screen.getByText('Up to 30 days late').parentElement?.className).toBe('late');
    expect(screen.getByText('2 open')).toBeDefined();
    const [, first, second, third] = screen.getAllByRole('row');
    expect(first?.textContent).toContain('312.40312.40');
    expect(second?.textContent).toContain('96.0040.00');
    expect(third?.className).toBe('void');
    await user.click(screen.getByRole('button', { name: 'Due' }));
    expect(numbers()).toEqual(['Bill 2117', 'Bill T-88', 'Bill 2093']);
  });

  it('asks the server for a state and a search', async () => {
    const { user, sent } = renderInBooks(<BillsPage />, {
      answers: { 'GET /documents': bills([LATE]) },
    });
    await screen.findByRole('table');
    await user.click(screen.getByText('Settled'));
    await user.type(screen.getByLabelText('Search'), 'clay');
    const last = sent.filter(({ path }) => path.startsWith('/documents')).at(-1);
    expect(last?.path).toBe('/documents?side=payables&state=settled&search=clay');
  });

  it('says where there is none', async () => {
    renderInBooks(<BillsPage />, { answers: { 'GET /documents': bills([]) } });
    expect(await screen.findByText('No bills')).toBeDefined();
  });

  it('says why it can’t be shown', async () => {
    renderInBooks(<BillsPage />, {
      answers: { 'GET /documents': () => problem('BOOKS_UNKNOWN') },
    });
    expect(await screen.findByRole('alert')).toBeDefined();
  });
});

describe('what the bank has not reported', () => {
  const entry = (legId: string, more: Partial<OutstandingEntry>): OutstandingEntry => ({
    legId,
    entryId: `entry ${legId}`,
    kind: 'cheque',
    bankAccountId: 'everyday',
    date: '2026-03-02',
    amount: -12_840,
    number: '000416',
    payee: 'Tallow Press',
    age: 37,
    isStale: false,
    ...more,
  });
  const OLD = entry('old', { number: '000391', age: 198, isStale: true, amount: -6_400 });
  const TODAY = entry('new', { kind: 'transfer', number: null, age: 1, amount: 18_000 });

  it('is listed with its age, the sum of all above it', async () => {
    const { user } = renderInBooks(<EntriesPage />, {
      answers: { 'GET /outstanding': { entries: [OLD, entry('one', {}), TODAY] } },
    });
    await screen.findByRole('table');
    expect(screen.getByText(/3 entries are not yet at the bank/).textContent).toContain('−12.40');
    expect(screen.getByText('198 days, may never be presented').className).toBe('doubt');
    expect(screen.getByText('1 day')).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Age' }));
    expect(numbers()).toEqual(['In transit', 'Cheque 000416', 'Cheque 000391']);
    await user.click(screen.getByRole('button', { name: 'Amount' }));
    expect(numbers()).toEqual(['Cheque 000416', 'Cheque 000391', 'In transit']);
  });

  it('says where nothing is outstanding', async () => {
    renderInBooks(<EntriesPage />, { answers: { 'GET /outstanding': { entries: [] } } });
    expect(await screen.findByText('Nothing is outstanding')).toBeDefined();
  });
});
