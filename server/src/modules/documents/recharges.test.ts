import type { Documents, Recharge } from '@zubrell/contract/documents';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let customer: string;
let job: string;

const recharges = async () =>
  (await scene.client.get<{ recharges: Recharge[] }>(`${mo.path}/recharges`)).recharges;
const invoices = () => scene.client.get<Documents>(`${mo.path}/documents?side=receivables`);
const cost = async (amount: number, text: string) => {
  const { id } = await mo.addLine(scene.books.bankAccountId, '2026-03-03', -amount, text);
  const code = (await mo.setup()).taxCodes.find(({ name }) => name === '20 %')?.id ?? null;
  const coding = mo.codingTo(await mo.accountId('5000'), null, code);
  const parts = coding.parts.map((part) => ({ ...part, jobId: job, isRecharged: true }));
  const { step } = await mo.post([id], { ...coding, parts });
  return step;
};
const invoice = async (number: string, rechargedLegId: string | null, amount = 12_000) =>
  mo.document({
    kind: 'invoice',
    side: 'receivables',
    number,
    payeeId: customer,
    date: '2026-03-31',
    dueDate: null,
    note: null,
    lines: [
      {
        text: 'Clay',
        accountId: await mo.accountId('4010'),
        taxCodeId: null,
        amount,
        tax: null,
        rechargedLegId,
      },
    ],
  });

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  customer = (await mo.payee('Wren Market', 'customer')).id;
  const made = await scene.client.send<{ id: string }>('POST', `${mo.path}/cost-objects`, {
    kind: 'job',
    name: 'Harbour tiles',
  });
  job = made.id;
});

describe('costs that are charged to a customer', () => {
  it('wait for an invoice, are marked by it, and are free again when it is voided', async () => {
    await cost(12_000, 'PENHALLOW CLAY');
    const [open] = await recharges();
    expect(open).toMatchObject({ net: 10_000, jobId: job, text: 'PENHALLOW CLAY', invoice: null });
    const legId = open?.legId ?? '';
    const { id } = await invoice('2026-001', legId);
    expect((await recharges())[0]?.invoice).toEqual({ id, number: '2026-001' });
    await expect(invoice('2026-002', legId)).rejects.toThrow('RECHARGE_TAKEN');
    await mo.voidDocument(id);
    expect((await recharges())[0]?.invoice).toBeNull();
    await invoice('2026-003', legId);
  });

  it('of a bill are called as its lines are', async () => {
    const supplier = (await mo.payee('Penhallow Clay')).id;
    const line = async (text: string, isRecharged: boolean) => ({
      text,
      accountId: await mo.accountId('5000'),
      taxCodeId: null,
      amount: 1_000,
      tax: null,
      jobId: job,
      isRecharged,
    });
    await mo.document({
      kind: 'bill',
      side: 'payables',
      number: '2093',
      payeeId: supplier,
      date: '2026-03-02',
      dueDate: null,
      note: null,
      lines: [await line('Delivery', false), await line('Stoneware', true)],
    });
    expect((await recharges()).map(({ text }) => text)).toEqual(['Stoneware']);
  });

  it('can’t be undone under their invoice, and are gone with their posting', async () => {
    const step = await cost(6_000, 'ORRIN');
    const [open] = await recharges();
    const made = await invoice('1', open?.legId ?? '');
    await expect(mo.undo(step)).rejects.toThrow('STEP');
    await mo.undo(made.step);
    await mo.undo(step);
    expect(await recharges()).toEqual([]);
    await expect(mo.redo(made.step)).rejects.toThrow('STEP');
    await expect(invoice('2', open?.legId ?? '')).rejects.toThrow('RECHARGE_TAKEN');
  });
});

describe('a cost on an invoice', () => {
  it('is not reopened, recoded or voided before the invoice is void', async () => {
    await cost(12_000, 'PENHALLOW CLAY');
    const [open] = await recharges();
    const { id } = await invoice('2026-001', open?.legId ?? '');
    const [line] = await mo.decided();
    const lineId = line?.id ?? '';
    await expect(mo.reopen([lineId])).rejects.toThrow('RECHARGE_INVOICED');
    await expect(mo.recode([lineId], { accountId: await mo.accountId('6010') })).rejects.toThrow(
      'RECHARGE_INVOICED',
    );
    await mo.voidDocument(id);
    await mo.reopen([lineId]);
    expect(await recharges()).toEqual([]);
  });

  it('comes back onto one invoice only, however that is undone and redone', async () => {
    await cost(12_000, 'PENHALLOW CLAY');
    const legId = (await recharges())[0]?.legId ?? '';
    const first = await invoice('2026-001', legId);
    const voided = await mo.voidDocument(first.id);
    const second = await invoice('2026-002', legId);
    await expect(mo.undo(voided.step)).rejects.toThrow('RECHARGE_TAKEN');
    await mo.undo(second.step);
    await mo.undo(voided.step);
    expect((await recharges())[0]?.invoice?.number).toBe('2026-001');
    await expect(mo.redo(second.step)).rejects.toThrow('RECHARGE_TAKEN');
  });

  it('is left to its invoice by a credit note for that', async () => {
    await cost(12_000, 'PENHALLOW CLAY');
    const legId = (await recharges())[0]?.legId ?? '';
    await invoice('2026-001', legId);
    await mo.document({
      kind: 'creditNote',
      side: 'receivables',
      number: 'C1',
      payeeId: customer,
      date: '2026-03-31',
      dueDate: null,
      note: null,
      lines: [
        {
          text: 'Clay',
          accountId: await mo.accountId('4010'),
          taxCodeId: null,
          amount: 1_000,
          tax: null,
          rechargedLegId: legId,
        },
      ],
    });
    expect((await recharges())[0]?.invoice?.number).toBe('2026-001');
  });
});

describe('invoices', () => {
  it('are numbered on from the newest, void ones too, and missing numbers are named', async () => {
    expect((await invoices()).series?.invoice).toEqual({ next: '1', missing: [] });
    await invoice('2026-001', null);
    const { id } = await invoice('2026-002', null);
    await mo.voidDocument(id);
    await invoice('2026-005', null);
    expect((await invoices()).series?.invoice).toEqual({
      next: '2026-006',
      missing: ['2026-003', '2026-004'],
    });
  });

  it('are PDF files with the address of the business, the customer’s, tax and total', async () => {
    const sales = await mo.accountId('4010');
    await mo.settings({ address: 'Kiln Lane 4\nGarran' });
    await scene.client.send('PATCH', `${mo.path}/payees/${customer}`, {
      address: 'Quay 2\nSaltmarsh',
      termsDays: 14,
    });
    const { id } = await mo.document({
      kind: 'invoice',
      side: 'receivables',
      number: '2026-001',
      payeeId: customer,
      date: '2026-03-31',
      dueDate: null,
      note: 'Thank you. '.repeat(80),
      lines: Array.from({ length: 60 }, (_, at) => ({
        text: `Żłoty tile ${at} `.repeat(12),
        accountId: sales,
        taxCodeId: null,
        amount: 100,
        tax: null,
      })),
    });
    const answer = await scene.harness.app.inject({
      url: `${mo.path}/documents/${id}/pdf`,
      headers: { cookie: scene.client.cookie },
    });
    expect([answer.statusCode, answer.headers['content-type']]).toEqual([200, 'application/pdf']);
    const pdf = answer.rawPayload.toString('latin1');
    expect(pdf.startsWith('%PDF-')).toBe(true);
    // Long descriptions are written out, over as many pages as they need.
    expect(pdf.match(/\/Type \/Page\b/g)).toHaveLength(3);
    const payee = (await mo.setup()).payees.find((each) => each.id === customer);
    expect(payee).toMatchObject({ address: 'Quay 2\nSaltmarsh', termsDays: 14 });
  });
});
