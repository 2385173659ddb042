import { screen, waitFor, within } from '@testing-library/react';
import type { Entry } from '@zubrell/contract/ledger';
import { Toaster } from 'sonner';
import { expect, it, vi } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { EntrySheet } from './EntrySheet.tsx';

const leg: Entry['legs'][number] = {
  id: 'freight',
  accountId: '6010',
  amount: 4_850,
  original: null,
  taxCodeId: null,
  role: 'base',
  costCentreId: null,
  jobId: null,
  isRecharged: false,
  clients: [],
};
const entry: Entry = {
  id: 'entry',
  seenStep: 41,
  date: '2026-03-12',
  bankDate: null,
  kind: 'line',
  payeeId: 'tidemark',
  note: null,
  number: null,
  reference: 'INV 2093',
  method: null,
  content: null,
  exchange: null,
  isVoid: false,
  step: 40,
  legs: [leg, { ...leg, id: 'bank', accountId: '1500', amount: -4_850, role: 'bank' }],
  attachments: [],
  lines: [{ id: 'line', date: '2026-03-12', amount: -4_850, description: 'TIDEMARK FRT 2093' }],
  document: null,
  pays: [],
  replaces: null,
  replacedBy: null,
  reverses: null,
  reversedBy: null,
  plan: null,
  who: 'Mo Oakes',
  at: '2026-03-13T09:00:00Z',
};

async function shown(change: Partial<Entry> = {}, answers: Record<string, object> = {}) {
  const onClose = vi.fn();
  const view = renderInBooks(
    <>
      <EntrySheet entryId="entry" onClose={onClose} />
      <Toaster />
    </>,
    {
      answers: {
        'GET /entries/entry': { ...entry, ...change },
        'POST /lines/reopen': { step: 42, words: 'Reopened 1 line', done: ['line'], leftOut: [] },
        ...answers,
      },
    },
  );
  await screen.findByText('Made by');
  return { ...view, onClose };
}

const rowOf = (account: string) => screen.getByRole('row', { name: new RegExp(account) });

it('shows what an entry is, leg by leg, and the line it was made from', async () => {
  await shown();
  expect(screen.getByText('Posted from a line')).toBeTruthy();
  expect(screen.getByText('INV 2093')).toBeTruthy();
  const cells = (account: string) =>
    within(rowOf(account))
      .getAllByRole('cell')
      .map(({ textContent }) => textContent);
  expect(cells('6010 Freight out')).toEqual(['6010 Freight out', '48.50', '']);
  expect(cells('1500 Equipment')).toEqual(['1500 Equipment', '', '48.50']);
  const from = screen.getByText('From the bank’s line').closest('section');
  expect(from?.textContent).toContain('TIDEMARK FRT 2093');
  expect(screen.getByText('Mo Oakes, 13 Mar, step 40')).toBeTruthy();
});

it('reopens the line that it was made from, and is gone with it', async () => {
  const { user, sent, onClose } = await shown();
  expect(screen.queryByRole('button', { name: 'Void entry' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Reopen line' }));
  await waitFor(() => expect(onClose).toHaveBeenCalled());
  expect(sent.find(({ path }) => path === '/lines/reopen')).toMatchObject({
    body: { target: { lineIds: ['line'] }, seenStep: 41 },
  });
});

it('stays where the line can’t be reopened, and says why', async () => {
  const { user, onClose } = await shown(
    {},
    { 'POST /lines/reopen': problem('PERIOD_CLOSED', { date: '12 March', closed: '31 March' }) },
  );
  await user.click(screen.getByRole('button', { name: 'Reopen line' }));
  await screen.findByText(/closed/);
  expect(onClose).not.toHaveBeenCalled();
});

it('says that it is void and was replaced, and offers nothing more', async () => {
  await shown({ isVoid: true, replacedBy: 'other' });
  const note = screen.getByText(/^Void:/);
  expect(note.textContent).toBe('Void: it no longer counts. It was replaced by another entry.');
  expect(screen.queryByRole('button', { name: /Undo step/ })).toBeNull();
});

it('leads to what it reverses, pays and was posted for', async () => {
  await shown({
    kind: 'journal',
    lines: [],
    reverses: { id: 'before', date: '2026-02-28' },
    pays: [{ id: 'bill', kind: 'bill', number: '2093' }],
    plan: { id: 'rent', name: 'Kiln lease', date: '2026-03-01' },
  });
  const target = (name: string) => screen.getByRole('link', { name }).getAttribute('href');
  expect(target('the entry of 28 February 2026')).toContain('entry=before');
  expect(target('Bill 2093')).toContain('bill');
  expect(target('Kiln lease')).toBe('/books/books/ledger/recurring');
});
