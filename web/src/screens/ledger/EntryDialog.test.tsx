import { screen, waitFor } from '@testing-library/react';
import type { ListedDocument } from '@zubrell/contract/documents';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks, testPayee } from '../../testing/testBooks.ts';
import { EntryDialog } from './EntryDialog.tsx';
import { SetOffDialog } from './SetOffDialog.tsx';

function listed(id: string, open: number, change: Partial<ListedDocument> = {}): ListedDocument {
  return {
    id,
    kind: open < 0 ? 'bill' : 'invoice',
    side: open < 0 ? 'payables' : 'receivables',
    number: id,
    payeeId: 'tidemark',
    date: '2026-03-02',
    dueDate: null,
    amount: open,
    open,
    exchange: null,
    isVoid: false,
    entryId: `e${id}`,
    lastStep: 1,
    ...change,
  };
}

const setup = testBooks();
const documents = [listed('2093', -4_850), listed('2101', -1_000)];
const answers = {
  'GET /documents': (query: URLSearchParams) => ({
    documents: documents.filter(({ side }) => side === query.get('side')),
    ages: [],
    today: '2026-03-31',
  }),
  'POST /entries': { id: 'made', step: 2, words: 'Entered payment of 58.50' },
};
const payment = { kind: 'payment', payeeId: 'tidemark' } as const;

describe('the dialog of a cost that was paid privately', () => {
  const owners = {
    ...setup,
    payees: [...setup.payees, { ...testPayee, id: 'mo', name: 'Mo Oakes', kind: 'owner' as const }],
  };
  const start = {
    kind: 'paidPrivately',
    amount: 4_850,
    accountId: '6010',
    date: '2026-03-02',
  } as const;

  it('asks who paid and for the receipt, and for no bank account', async () => {
    let closed: string | undefined = 'open';
    const { user, sent } = renderInBooks(
      <EntryDialog entry={null} start={start} onClose={(id) => (closed = id)} />,
      { answers, setup: owners },
    );
    expect(screen.queryByLabelText('Bank account')).toBeNull();
    await user.selectOptions(screen.getByLabelText('Paid by'), 'Mo Oakes');
    await user.upload(screen.getByLabelText('Receipt'), new File(['%PDF-1.4'], 'till.pdf'));
    expect(await screen.findByText('till.pdf')).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Save entry' }));
    await waitFor(() => expect(closed).toBe('made'));
    const [entered, kept] = sent.filter(({ method }) => method === 'POST');
    expect(entered?.body).toMatchObject({
      entry: {
        kind: 'paidPrivately',
        ownerId: 'mo',
        amount: 4_850,
        parts: [{ accountId: '6010' }],
      },
    });
    expect(entered?.body).not.toHaveProperty('entry.bankAccountId');
    expect(kept?.path).toBe('/entries/made/attachments?fileName=till.pdf');
  });

  it('stays entered where the receipt can’t be kept', async () => {
    let closed: string | undefined = 'open';
    const { user } = renderInBooks(
      <EntryDialog entry={null} start={start} onClose={(id) => (closed = id)} />,
      {
        answers: { ...answers, 'POST /entries/made/attachments': problem('ATTACHMENT_TYPE') },
        setup,
      },
    );
    // Without owners among the payees there is nobody to choose.
    expect(screen.queryByLabelText('Paid by')).toBeNull();
    await user.upload(screen.getByLabelText('Receipt'), new File(['GIF89a'], 'till.gif'));
    await user.click(screen.getByRole('button', { name: 'Save entry' }));
    await waitFor(() => expect(closed).toBe('made'));
  });
});

describe('the dialog of an entry on a bank account that holds clients’ money', () => {
  it('asks whose money it is', async () => {
    const [everyday] = setup.bankAccounts;
    const clients = {
      ...setup,
      payees: [{ ...testPayee, id: 'alder', name: 'Alder Yard', kind: 'customer' as const }],
      bankAccounts: everyday
        ? [everyday, { ...everyday, id: 'trust', kind: 'clientMoney' as const, accountId: '1020' }]
        : [],
    };
    const transfer = { kind: 'transfer', amount: 100, toBankAccountId: 'trust' } as const;
    const { user, sent } = renderInBooks(
      <EntryDialog entry={null} start={transfer} onClose={() => undefined} />,
      { answers, setup: clients },
    );
    await user.click(screen.getByLabelText('Client'));
    await user.click(await screen.findByRole('option', { name: /Alder Yard/ }));
    await user.click(screen.getByRole('button', { name: 'Save entry' }));
    await waitFor(() => expect(sent.some(({ method }) => method === 'POST')).toBe(true));
    expect(sent.at(-1)?.body).toMatchObject({ entry: { kind: 'transfer', clientId: 'alder' } });
  });
});

describe('the dialog of an entry made by hand', () => {
  it('settles what is ticked, and its amount follows', async () => {
    let closed: string | undefined = 'open';
    const { user, sent } = renderInBooks(
      <EntryDialog entry={null} start={payment} onClose={(id) => (closed = id)} />,
      { answers, setup },
    );
    await user.click(await screen.findByLabelText('Bill 2093'));
    await user.click(screen.getByLabelText('Bill 2101'));
    expect(screen.getByLabelText<HTMLInputElement>('Amount').value).toBe('58.50');
    expect(screen.queryByLabelText('Account of the entry')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Save entry' }));
    await waitFor(() => expect(closed).toBe('made'));
    expect(sent.find(({ method }) => method === 'POST')?.body).toMatchObject({
      entry: {
        kind: 'payment',
        amount: 5_850,
        parts: [],
        settles: [
          { documentId: '2093', amount: -4_850 },
          { documentId: '2101', amount: -1_000 },
        ],
      },
    });
  });

  it('asks for the rest of a larger amount, or keeps it as credit', async () => {
    const start = {
      ...payment,
      amount: 6_000,
      settles: [{ documentId: '2093', amount: -4_850 }],
    };
    const { user, sent } = renderInBooks(
      <EntryDialog entry={null} start={start} onClose={() => undefined} />,
      { answers, setup },
    );
    expect(await screen.findByText('Enter what the rest is for.')).toBeTruthy();
    await user.click(screen.getByLabelText('Keep 11.50 as credit with Tidemark Freight'));
    await user.click(screen.getByRole('button', { name: 'Save entry' }));
    await waitFor(() => expect(sent.some(({ method }) => method === 'POST')).toBe(true));
    expect(sent.find(({ method }) => method === 'POST')?.body).toMatchObject({
      entry: { amount: 6_000, leavesCredit: true, parts: [] },
    });
  });

  it('says where the documents come to more than the amount', async () => {
    const start = { ...payment, amount: 1_000, settles: [{ documentId: '2093', amount: -4_850 }] };
    renderInBooks(<EntryDialog entry={null} start={start} onClose={() => undefined} />, {
      answers,
      setup,
    });
    expect(await screen.findByText('Enter an amount that covers the documents.')).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Save entry' }).disabled).toBe(
      true,
    );
  });
});

describe('the dialog that settles without money', () => {
  it('takes the oldest first, and asks for a day only across both sides', async () => {
    const { user, sent } = renderInBooks(
      <SetOffDialog
        document={listed('2093', -4_850)}
        others={[listed('1042', 3_000, { date: '2026-02-01' }), listed('1043', 4_000)]}
        onClose={() => undefined}
      />,
      { answers: { 'POST /documents/offset': { id: 'd', step: 2, words: 'Settled' } }, setup },
    );
    const rows = () =>
      screen.getAllByRole('row').map((row) => row.textContent?.replace(/\s+/g, ' '));
    expect(rows().slice(1)).toEqual([
      expect.stringContaining('Invoice 104201 Feb30.0030.00'),
      expect.stringContaining('Bill 209302 Mar48.5048.50'),
      expect.stringContaining('Invoice 104302 Mar40.0018.50'),
    ]);
    expect(screen.getByLabelText<HTMLInputElement>('Date').value).toBe('31 Mar 2026');
    await user.click(screen.getByLabelText('Invoice 1042'));
    await user.click(screen.getByRole('button', { name: 'Settle 40.00' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toEqual({ documentIds: ['2093', '1043'], date: '2026-03-31' });
  });
});
