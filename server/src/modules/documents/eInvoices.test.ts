import type { DocumentSheet } from '@zubrell/contract/documents';
import { checkInvoice } from '@zubrell/core/invoices/checkInvoice';
import { readInvoice } from '@zubrell/core/invoices/readInvoice';
import { pdfWith, ublBill } from '@zubrell/core/testing/invoiceFiles';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let payeeId: string;
beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  payeeId = (await mo.payee('Nettle and Thread', 'customer')).id;
});

const taxCode = async (name: string) =>
  (await mo.setup()).taxCodes.find((code) => code.name === name)?.id ?? null;
const eInvoice = (id: string) =>
  scene.client.get<{ xml: string }>(`${mo.path}/invoices/${id}/e-invoice`);
async function invoice(change: object = {}) {
  const accountId = await mo.accountId('4010');
  const [standard, reduced] = [await taxCode('20 %'), await taxCode('5 %')];
  const line = { accountId, tax: null };
  return mo.document({
    kind: 'invoice',
    side: 'receivables',
    number: '1050',
    payeeId,
    date: '2026-03-02',
    dueDate: '2026-04-01',
    note: 'Thank you',
    lines: [
      { ...line, text: 'Bowls', taxCodeId: standard, amount: 33_333 },
      { ...line, text: 'Book & glazes', taxCodeId: reduced, amount: 1_050 },
      { ...line, text: '', taxCodeId: standard, amount: -1_200 },
    ],
    ...change,
  });
}

describe('an invoice in electronic form', () => {
  it('says what it lacks before it can be written', async () => {
    const { id } = await invoice();
    await expect(eInvoice(id)).rejects.toThrow('the country of the business');
    await mo.settings({ country: 'XX' });
    await expect(eInvoice(id)).rejects.toThrow('the address of the business');
    await mo.settings({ address: 'Kiln Lane 4\nGarran' });
    await expect(eInvoice(id)).rejects.toThrow('the tax number of the business');
    await mo.settings({ taxNumber: 'XX99' });
    expect((await eInvoice(id)).xml).toContain('<cbc:CompanyID>XX99</cbc:CompanyID>');
  });

  it('is read again with the figures of the books, and its sums add up', async () => {
    await mo.settings({ country: 'XX', address: 'Kiln Lane 4\nGarran', taxNumber: 'XX99' });
    await scene.client.send('PATCH', `${mo.path}/payees/${payeeId}`, {
      address: 'Quay 3\nAldersea',
      country: 'YY',
      taxNumber: 'YY1',
    });
    const { id } = await invoice();
    const read = readInvoice((await eInvoice(id)).xml);
    expect(checkInvoice(read)).toEqual([]);
    expect(read).toMatchObject({
      number: '1050',
      dueDate: '2026-04-01',
      seller: { name: 'Larkmoor Kiln Works', country: 'XX' },
      buyer: { name: 'Nettle and Thread', country: 'YY', taxNumber: 'YY1' },
      adjustments: [{ text: 'Discount', net: -1_000 }],
      totals: { gross: 33_183, payable: 33_183 },
    });
  });

  it('under reverse charge needs the customer’s tax number', async () => {
    await mo.settings({ country: 'XX', address: 'Kiln Lane 4', taxNumber: 'XX99' });
    const accountId = await mo.accountId('4010');
    const taxCodeId = await taxCode('Reverse charge 20 %');
    const lines = [{ text: 'Bowls', accountId, taxCodeId, amount: 10_000, tax: null }];
    const { id } = await invoice({ lines });
    await expect(eInvoice(id)).rejects.toThrow('the tax number of Nettle and Thread');
  });
});

describe('the file of an electronic invoice', () => {
  const keep = async (id: string, fileName: string, file: Uint8Array) => {
    const answer = await scene.harness.app.inject({
      method: 'POST',
      url: `${mo.path}/documents/${id}/attachments?fileName=${fileName}`,
      payload: Buffer.from(file),
      headers: { 'content-type': 'application/octet-stream', cookie: scene.client.cookie },
    });
    return answer.json<{ id?: string; code?: string }>();
  };

  it('is kept with its bill, as XML or PDF, and opened as it came', async () => {
    const { id } = await invoice();
    const kept = await keep(id, 'bill.xml', new TextEncoder().encode(ublBill));
    await keep(id, 'bill.pdf', pdfWith(ublBill));
    const { attachments } = await scene.client.get<DocumentSheet>(`${mo.path}/documents/${id}`);
    expect(attachments.map(({ fileName }) => fileName)).toEqual(['bill.xml', 'bill.pdf']);
    const attachment = await scene.harness.app.inject({
      url: `${mo.path}/attachments/${kept.id}`,
      headers: { cookie: scene.client.cookie },
    });
    expect(attachment.payload).toBe(ublBill);
    expect(attachment.headers['content-security-policy']).toContain('sandbox');
  });

  it('is nothing else, and of a document that is there', async () => {
    const { id } = await invoice();
    const text = new TextEncoder().encode('just words');
    expect(await keep(id, 'bill.xml', text)).toMatchObject({ code: 'ATTACHMENT_TYPE' });
    const nowhere = '00000000-0000-4000-8000-000000000000';
    expect(await keep(nowhere, 'bill.pdf', pdfWith(ublBill))).toMatchObject({
      code: 'DOCUMENT_UNKNOWN',
    });
  });
});
