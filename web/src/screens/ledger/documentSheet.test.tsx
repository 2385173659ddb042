import { screen, waitFor, within } from '@testing-library/react';
import type { DocumentSheet, ListedDocument } from '@zubrell/contract/documents';
import { describe, expect, it, vi } from 'vitest';
import { saveText } from '../../app/saveText.ts';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { DocumentSheetPanel } from './DocumentSheetPanel.tsx';

vi.mock('../../app/saveText.ts', () => ({ saveText: vi.fn() }));

/** A bill of 120.00 of which 20.00 are open: a line paid 100.00 of it. */
const bill: DocumentSheet = {
  id: 'bill',
  kind: 'bill',
  side: 'payables',
  number: '2093',
  payeeId: 'tidemark',
  date: '2026-02-10',
  dueDate: '2026-03-12',
  amount: -12_000,
  open: -2_000,
  exchange: null,
  isVoid: false,
  entryId: 'entry',
  lastStep: 3,
  seenStep: 17,
  lines: [{ text: '', accountId: '6010', taxCodeId: null, amount: 12_000, tax: null }],
  note: 'two parcels',
  attachments: [],
  payments: [
    {
      decisionId: 'paid',
      amount: -10_000,
      lines: [
        { id: 'line', date: '2026-03-01', amount: -10_000, description: 'TIDEMARK FRT 2093' },
      ],
      entry: null,
    },
  ],
};

function shown(change: Partial<DocumentSheet> = {}, answers: Answers = {}) {
  const onClose = vi.fn();
  const sheet = { ...bill, ...change };
  const given = renderInBooks(<DocumentSheetPanel documentId={sheet.id} onClose={onClose} />, {
    answers: { [`GET /documents/${sheet.id}`]: sheet, 'GET /documents': NONE, ...answers },
  });
  return { ...given, onClose };
}
const NONE = { documents: [], ages: [], today: '2026-03-31', series: null };
const factOf = (name: string) => screen.getByText(name).nextElementSibling?.textContent;
const actions = () =>
  screen
    .getAllByRole('button')
    .map(({ textContent }) => textContent)
    .filter((text) => text !== '');
const bodyOf = (sent: readonly { readonly path: string; readonly body: unknown }[], end: string) =>
  sent.find(({ path }) => path.endsWith(end))?.body;

describe('a document', () => {
  it('says with whom, how much of it is open, what for, and what settled it', async () => {
    const { user, onClose } = shown();
    expect(await screen.findByRole('heading', { name: 'Bill 2093' })).toBeDefined();
    expect(factOf('From')).toBe('Tidemark Freight');
    expect(factOf('Amount')).toBe('120.00');
    expect(factOf('Open')).toBe('20.00');
    expect(factOf('Note')).toBe('two parcels');
    // A line without words of its own is called by its account.
    expect(screen.getAllByText('6010 Freight out')).toHaveLength(2);
    const paid = screen.getByRole('link', { name: /TIDEMARK FRT 2093/ });
    expect(paid.getAttribute('href')).toContain('/books/books/desk?');
    await user.click(screen.getByRole('button', { name: 'Close the document' }));
    expect(onClose).toHaveBeenCalledOnce();
  });

  it('is no longer paid once the pairing is undone', async () => {
    const { user, sent } = shown(
      {},
      { 'POST /lines/reopen': { step: 18, words: 'Reopened 1 line' } },
    );
    await user.click(await screen.findByRole('button', { name: 'Undo pairing' }));
    await waitFor(() =>
      expect(bodyOf(sent, '/lines/reopen')).toEqual({
        target: { lineIds: ['line'] },
        seenStep: 17,
      }),
    );
  });

  it('that is paid in part can be neither changed nor voided', async () => {
    shown();
    await screen.findByText('Undo pairing');
    expect(actions()).toEqual(['Undo pairing', 'Credit note', 'Enter payment']);
  });

  it('that nothing has settled can be both', async () => {
    const { user, sent } = shown(
      { payments: [], open: -12_000 },
      { 'POST /documents/bill/void': { step: 18, words: 'Voided bill 2093' } },
    );
    await user.click(await screen.findByRole('button', { name: 'Void bill' }));
    await waitFor(() => expect(bodyOf(sent, '/void')).toEqual({ seenStep: 3 }));
    expect(actions()).toContain('Change bill');
  });

  it('that is void says so, and leaves nothing to be done', async () => {
    shown({ isVoid: true, payments: [], open: 0 });
    expect(await screen.findByText('Void: it no longer counts.')).toBeDefined();
    expect(actions()).toEqual([]);
  });

  it('is settled by a payment that the bank has not reported, of what is open', async () => {
    const { user } = shown();
    await user.click(await screen.findByRole('button', { name: 'Enter payment' }));
    const dialog = within(await screen.findByRole('dialog'));
    expect((dialog.getByLabelText('Amount') as HTMLInputElement).value).toBe('20.00');
  });

  it('is set against what is open of its payee the other way', async () => {
    const listed = (id: string, open: number): ListedDocument => {
      const { seenStep, lines, note, attachments, payments, ...kept } = bill;
      return { ...kept, id, number: id, kind: 'creditNote', amount: open, open };
    };
    const credits = { ...NONE, documents: [listed('C7', 1_500), listed('B8', -500)] };
    const { user } = shown({}, { 'GET /documents': credits });
    await user.click(await screen.findByRole('button', { name: 'Settle without money' }));
    const dialog = within(await screen.findByRole('dialog'));
    expect(dialog.getAllByText(/C7/).length).toBeGreaterThan(0);
    expect(dialog.queryByText(/B8/)).toBeNull();
  });

  it('in another currency is told in it, with its rate', async () => {
    shown({ exchange: { currency: 'USD', rate: '1.1' } });
    expect(await screen.findByText('Rate')).toBeDefined();
    expect(factOf('Rate')).toMatch(/^1 USD = .* EUR$/);
    expect(factOf('Open')).toBe('20.00 USD');
  });

  it('that isn’t there says why', async () => {
    shown({}, { 'GET /documents/bill': () => problem('DOCUMENT_UNKNOWN') });
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
  });
});

describe('an invoice', () => {
  const invoice = { id: 'bill', kind: 'invoice', side: 'receivables', number: '1042' } as const;
  const paid = { ...invoice, amount: 12_000, open: 12_000, payments: [] };

  it('is saved for machines, and opened as PDF', async () => {
    const { user } = shown(paid, { 'GET /invoices/bill/e-invoice': { xml: '<Invoice/>' } });
    const pdf = await screen.findByRole('link', { name: 'Open PDF' });
    expect(pdf.getAttribute('href')).toBe('/api/books/books/documents/bill/pdf');
    await user.click(screen.getByRole('button', { name: 'Save e-invoice' }));
    await waitFor(() => expect(saveText).toHaveBeenCalled());
    expect(vi.mocked(saveText).mock.calls[0]?.slice(0, 2)).toEqual([
      '<Invoice/>',
      'Invoice 1042.xml',
    ]);
  });
});
