import { screen, waitFor } from '@testing-library/react';
import type { Imported } from '@zubrell/contract/ledger';
import { describe, expect, it, vi } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { ImportRecordsDialog } from './ImportRecordsDialog.tsx';

type Kind = Parameters<typeof ImportRecordsDialog>[0]['kind'];

const imported = (more: Partial<Imported> = {}): Imported => ({
  step: null,
  words: '',
  count: 0,
  problems: [],
  newPayees: [],
  ...more,
});
const done = imported({ step: 9, words: 'Imported 2 entries', count: 2 });

/** A file; jsdom's have no text. */
const fileOf = (text: string, name = 'records.csv', type = 'text/csv') =>
  Object.assign(new File([text], name, { type }), { text: async () => text });

function open(kind: Kind, answers: Answers, onInvoice?: (file: File) => void) {
  const onClose = vi.fn();
  const view = renderInBooks(
    <ImportRecordsDialog kind={kind} onClose={onClose} {...(onInvoice ? { onInvoice } : {})} />,
    { answers },
  );
  const choose = async (file: File) =>
    view.user.upload(
      await screen.findByLabelText(kind === 'rates' ? 'A file of rates' : 'A CSV file'),
      file,
    );
  const bodies = () =>
    view.sent.filter(({ method }) => method === 'POST').map(({ path, body }) => [path, body]);
  return { ...view, onClose, choose, bodies };
}

describe('records from a file', () => {
  it.each([
    ['entries', 'Entries from a file', '/entries/import', { text: 'rows', makePayees: false }],
    [
      'documents',
      'Bills and invoices from a file',
      '/documents/import',
      { text: 'rows', makePayees: false },
    ],
    ['accounts', 'Chart of accounts from a file', '/accounts/import', { text: 'rows' }],
    ['rates', 'Exchange rates from a file', '/exchange-rates/import', { text: 'rows' }],
  ] as const)(
    'are imported at once where nothing is in the way: %s',
    async (kind, title, path, body) => {
      const { choose, bodies, onClose } = open(kind, { [`POST ${path}`]: done });
      expect(await screen.findByRole('dialog', { name: title })).toBeDefined();
      await choose(fileOf('rows'));
      await waitFor(() => expect(onClose).toHaveBeenCalledOnce());
      expect(bodies()).toEqual([[path, body]]);
    },
  );

  it('are not imported in part: all that is wrong is said, row by row', async () => {
    const problems = [
      { row: 2, message: 'The date “31.02.2026” is not a day.' },
      { row: 5, message: 'There is no account 7777.' },
    ];
    const { choose, onClose } = open('entries', { 'POST /entries/import': imported({ problems }) });
    await choose(fileOf('rows'));
    expect(await screen.findByText(/Nothing was imported. Correct these 2 rows/)).toBeDefined();
    expect(screen.getAllByRole('listitem').map(({ textContent }) => textContent)).toEqual([
      'Row 2: The date “31.02.2026” is not a day.',
      'Row 5: There is no account 7777.',
    ]);
    expect(screen.getByText('records.csv')).toBeDefined();
    expect(onClose).not.toHaveBeenCalled();
  });

  it('name payees that are not in the books yet, and make them only when told to', async () => {
    const answers = [imported({ newPayees: ['Penhallow Clay', 'Orrin Bell'] }), done];
    const { user, choose, bodies, onClose } = open('entries', {
      'POST /entries/import': () => answers.shift() ?? {},
    });
    await choose(fileOf('rows'));
    expect(await screen.findByText('Penhallow Clay, Orrin Bell')).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Create payees and import file' }));
    await waitFor(() => expect(onClose).toHaveBeenCalledOnce());
    expect(bodies().map(([, body]) => body)).toEqual([
      { text: 'rows', makePayees: false },
      { text: 'rows', makePayees: true },
    ]);
  });

  it('that are all here already change nothing, and say so', async () => {
    const { choose } = open('accounts', { 'POST /accounts/import': imported() });
    await choose(fileOf('rows'));
    expect(await screen.findByText(/Nothing changed: everything in the file/)).toBeDefined();
    expect(screen.getByRole('button', { name: /import file/ })).toHaveProperty('disabled', true);
  });

  it('that the server refuses leave the dialog as it is, with the reason', async () => {
    const { choose, onClose } = open('rates', {
      'POST /exchange-rates/import': () => problem('ACCOUNT_UNKNOWN'),
    });
    await choose(fileOf('rows'));
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    expect(onClose).not.toHaveBeenCalled();
  });

  it('that are an electronic invoice go where these are read', async () => {
    const onInvoice = vi.fn();
    const { choose, bodies } = open('documents', {}, onInvoice);
    const invoice = fileOf('<Invoice/>', 'invoice.xml', 'text/xml');
    await choose(invoice);
    await waitFor(() => expect(onInvoice).toHaveBeenCalledOnce());
    expect(bodies()).toEqual([]);
  });
});
