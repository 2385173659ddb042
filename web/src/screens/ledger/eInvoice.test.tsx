import { screen, waitFor } from '@testing-library/react';
import { ciiCreditNote, pdfWith, ublBill } from '@zubrell/core/testing/invoiceFiles';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { BillsPage } from './DocumentsPage.tsx';

// What browsers have, and the test's document doesn't.
File.prototype.arrayBuffer ??= function (this: File) {
  return new Promise((done) => {
    const reader = new FileReader();
    reader.onload = () => done(reader.result as ArrayBuffer);
    reader.readAsArrayBuffer(this);
  });
};

const setup = testBooks();
const [tidemark] = setup.payees;
const books = {
  ...setup,
  payees: tidemark ? [tidemark, { ...tidemark, id: 'clay', name: 'PENHALLOW CLAY' }] : [],
  taxCodes: [...setup.taxCodes.filter(({ kind }) => kind === 'standard').slice(0, 1)],
};
const nothing = { documents: [], ages: [], today: '2026-04-01', series: null };
const answers = {
  'GET /documents': nothing,
  'GET /payee-uses': {
    uses: [
      {
        payeeId: 'clay',
        usualAccountId: '6010',
        usualTaxCodeId: null,
        entryCount: 3,
        lastDate: '2026-02-01',
      },
    ],
  },
  'POST /documents': { id: 'made', words: 'Entered bill 2093', step: 7 },
  'POST /documents/made/attachments': { id: 'attachment' },
  'POST /payees': { id: 'new', words: 'Made', step: 6 },
};
const xml = (text: string, name = 'bill.xml') => new File([text], name, { type: 'text/xml' });

async function dropped(file: File, more: object = {}) {
  const shown = renderInBooks(<BillsPage />, { setup: books, answers: { ...answers, ...more } });
  await shown.user.click(await screen.findByRole('button', { name: 'Import bills' }));
  await shown.user.upload(screen.getByLabelText('A CSV file'), file);
  return shown;
}

describe('an electronic invoice', () => {
  it('is shown with its sums, entered as the bill of a known supplier, and kept with it', async () => {
    const { user, sent } = await dropped(xml(ublBill));
    const dialog = await screen.findByRole('dialog', { name: /Invoice 2093 of Penhallow Clay/ });
    expect(dialog.textContent).toContain('The totals add up.');
    expect(dialog.textContent).toContain('309.60');
    const enter = screen.getByRole<HTMLButtonElement>('button', { name: 'Enter as bill' });
    await waitFor(() => expect(enter.disabled).toBe(false));
    await user.click(enter);
    expect(await screen.findByDisplayValue('Stoneware, 10 kg (12)')).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Save bill' }));
    await waitFor(() =>
      expect(sent.some(({ path }) => path.startsWith('/documents/made/attachments'))).toBe(true),
    );
    const bill = sent.find(({ method, path }) => method === 'POST' && path === '/documents');
    expect(bill?.body).toMatchObject({
      kind: 'bill',
      number: '2093',
      payeeId: 'clay',
      date: '2026-03-02',
      dueDate: '2026-04-01',
    });
    const lines = z
      .object({ lines: z.array(z.object({ amount: z.int(), accountId: z.string() })) })
      .parse(bill?.body).lines;
    expect(lines.reduce((sum, { amount }) => sum + amount, 0)).toBe(30_960);
    expect(lines.every(({ accountId }) => accountId === '6010')).toBe(true);
  });

  it('inside a PDF of an unknown supplier makes the payee', async () => {
    const pdf = new File([new Uint8Array(pdfWith(ciiCreditNote))], 'note.pdf');
    const { user, sent } = await dropped(pdf);
    expect(await screen.findByText(/Tidemark Freight isn’t a payee yet|Quay 3/)).toBeDefined();
    const enter = screen.getByRole<HTMLButtonElement>('button', { name: 'Enter as credit note' });
    await waitFor(() => expect(enter.disabled).toBe(false));
    await user.click(enter);
    expect(await screen.findByDisplayValue('Pallet not delivered')).toBeDefined();
    expect(sent.filter(({ path, method }) => method === 'POST' && path === '/payees')).toHaveLength(
      tidemark?.name === 'Tidemark Freight' ? 0 : 1,
    );
  });

  it('that came before is not entered twice', async () => {
    const there = {
      id: 'old',
      kind: 'bill',
      side: 'payables',
      number: '2093',
      payeeId: 'clay',
      date: '2026-03-02',
      dueDate: null,
      amount: -30_960,
      open: 0,
      exchange: null,
      isVoid: false,
      entryId: 'e',
      lastStep: 1,
    };
    await dropped(xml(ublBill), { 'GET /documents': { ...nothing, documents: [there] } });
    expect(await screen.findByText(/was entered already, on 2 March 2026/)).toBeDefined();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Enter as bill' }).disabled).toBe(
      true,
    );
  });

  it('names sums that don’t add up, and tax that the books have no code for', async () => {
    await dropped(xml(ublBill.replace('49.10</cbc:TaxAmount>', '50.10</cbc:TaxAmount>')));
    expect(await screen.findByText(/The taxes come to 49.10/)).toBeDefined();
    expect(screen.getByText(/no tax code for .*5 %/)).toBeDefined();
  });

  it('that can’t be read says why', async () => {
    await dropped(xml('<order/>'));
    expect((await screen.findByRole('alert')).textContent).toContain('neither a UBL invoice');
  });
});
