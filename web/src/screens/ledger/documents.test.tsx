import { screen, waitFor, within } from '@testing-library/react';
import type { Documents, ListedDocument } from '@zubrell/contract/documents';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { setRoomForRows } from '../../testing/roomForRows.ts';
import { BillsPage, InvoicesPage } from './DocumentsPage.tsx';

setRoomForRows();

function bill(id: string, changed: Partial<ListedDocument> = {}): ListedDocument {
  return {
    id,
    kind: 'bill',
    side: 'payables',
    number: `B-${id}`,
    payeeId: 'tidemark',
    date: '2026-02-10',
    dueDate: '2026-03-12',
    amount: -12_000,
    open: -12_000,
    exchange: null,
    isVoid: false,
    entryId: `entry-${id}`,
    lastStep: 3,
    ...changed,
  };
}

const ages: Documents['ages'] = [
  { age: 'notDue', count: 1, amount: -5_000 },
  { age: 'to30', count: 2, amount: -24_000 },
];

const list = (documents: readonly ListedDocument[], series: Documents['series'] = null) => ({
  documents: [...documents],
  ages,
  today: '2026-03-31',
  series,
});

const asked = (sent: readonly { readonly path: string }[]) =>
  sent.map(({ path }) => path).filter((path) => path.startsWith('/documents'));

describe('bills', () => {
  it('say what is open by how late it is, and which are due', async () => {
    const late = bill('1');
    const soon = bill('2', { dueDate: '2026-04-12', amount: -5_000, open: -2_000 });
    renderInBooks(<BillsPage />, { answers: { 'GET /documents': list([late, soon]) } });
    expect(await screen.findByText('2 open')).toBeDefined();
    const table = within(screen.getByRole('table'));
    expect(table.getAllByText('Tidemark Freight')).toHaveLength(2);
    const dues = table.getAllByText(/Mar|Apr|2026-0[34]/).map(({ className }) => className);
    expect(dues).toContain('doubt');
    expect(dues).toContain('');
    expect(table.getByText('20.00')).toBeDefined();
  });

  it('are asked for by state and by what is typed', async () => {
    const { user, sent } = renderInBooks(<BillsPage />, {
      answers: { 'GET /documents': list([bill('1')]) },
    });
    await screen.findByRole('table');
    await user.click(screen.getByRole('button', { name: 'All' }));
    await user.type(screen.getByRole('searchbox', { name: 'Search' }), 'x ');
    await waitFor(() =>
      expect(asked(sent)).toEqual([
        '/documents?side=payables&state=open&search=',
        '/documents?side=payables&search=',
        '/documents?side=payables&search=x',
      ]),
    );
  });

  it('that are void say so, and amounts in another currency are in it', async () => {
    const exchange = { currency: 'USD', rate: '0.9' };
    renderInBooks(<BillsPage />, {
      answers: { 'GET /documents': list([bill('1', { isVoid: true }), bill('2', { exchange })]) },
    });
    expect(await screen.findByText('void')).toBeDefined();
    expect(screen.getAllByText(/USD/).length).toBeGreaterThan(0);
  });

  it('that are none say what bills are for; a failure is told', async () => {
    const { unmount } = renderInBooks(<BillsPage />, { answers: { 'GET /documents': list([]) } });
    expect(await screen.findByText('No bills')).toBeDefined();
    unmount();
    renderInBooks(<BillsPage />, { answers: { 'GET /documents': () => problem('INTERNAL') } });
    expect(await screen.findByRole('alert')).toBeDefined();
  });
});

describe('invoices', () => {
  it('say which numbers of the series are missing', async () => {
    const series = {
      invoice: { next: '9', missing: ['4', '6'] },
      creditNote: { next: 'C2', missing: [] },
    };
    const invoice = bill('1', { kind: 'invoice', side: 'receivables', amount: 900, open: 900 });
    renderInBooks(<InvoicesPage />, { answers: { 'GET /documents': list([invoice], series) } });
    expect(await screen.findByText('2 numbers are missing in the series: 4, 6')).toBeDefined();
  });

  it('are opened in the address by a press', async () => {
    const invoice = bill('7', { kind: 'invoice', side: 'receivables', amount: 900, open: 900 });
    const { user, router } = renderInBooks(<InvoicesPage />, {
      answers: {
        'GET /documents': list([invoice]),
        'GET /documents/7': () => problem('DOCUMENT_UNKNOWN'),
      },
    });
    await user.click(await screen.findByRole('button', { name: /B-7/ }));
    expect(router.state.location.search).toBe('?document=7');
  });
});
