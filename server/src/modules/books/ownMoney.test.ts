import type { Entry } from '@zubrell/contract/ledger';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let everyday: string;

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  everyday = scene.books.bankAccountId;
});

const payeeOf = async (id: string) => (await mo.setup()).payees.find((payee) => payee.id === id);
const accountOf = async (id: string | null | undefined) =>
  (await mo.setup()).accounts.find((account) => account.id === id);
const codingTo = async (code: string, payeeId: string | null = null) =>
  mo.codingTo(await mo.accountId(code), payeeId);

describe('several owners', () => {
  it('each get drawings and capital of their own, in one step that undo takes back whole', async () => {
    const { id } = await mo.payee('Mo Oakes', 'owner');
    const { step } = await mo.changePayee(id, { makesAccounts: true });
    const made = await payeeOf(id);
    const equity = (await mo.setup()).accounts.find(({ code }) => code === '3000')?.id;
    expect(await accountOf(made?.accountId)).toMatchObject({
      name: 'Drawings, Mo Oakes',
      type: 'equity',
      parentId: equity,
    });
    expect(await accountOf(made?.capitalAccountId)).toMatchObject({
      name: 'Capital introduced, Mo Oakes',
    });
    await mo.undo(step);
    expect(await payeeOf(id)).toMatchObject({ accountId: null, capitalAccountId: null });
    expect(await accountOf(made?.accountId)).toBeUndefined();
    await mo.redo(step);
    expect(await payeeOf(id)).toMatchObject({ accountId: made?.accountId });
  });

  it('keep accounts only while they are owners, and only those that can be theirs', async () => {
    const { id } = await mo.payee('Ines Varga', 'owner');
    await expect(mo.changePayee(id, { accountId: await mo.accountId('6010') })).rejects.toThrow(
      'PAYEE_ACCOUNT',
    );
    const { bankAccounts } = await mo.setup();
    await expect(mo.changePayee(id, { accountId: bankAccounts[0]?.accountId })).rejects.toThrow(
      'PAYEE_ACCOUNT',
    );
    const accountId = await mo.accountId('3020');
    await mo.changePayee(id, { accountId });
    expect(await payeeOf(id)).toMatchObject({ accountId });
    await mo.changePayee(id, { kind: 'relatedBusiness' });
    expect(await payeeOf(id)).toMatchObject({ accountId: null });
    await mo.changePayee(id, { kind: 'owner', accountId });
    await mo.changePayee(id, { kind: 'supplier' });
    expect(await payeeOf(id)).toMatchObject({ accountId: null });
    await expect(mo.changePayee(id, { accountId })).rejects.toThrow('PAYEE_NO_OWN_ACCOUNT');
    await expect(mo.changePayee(id, { makesAccounts: true })).rejects.toThrow(
      'PAYEE_NO_OWN_ACCOUNT',
    );
  });
});

describe('another business of the owner', () => {
  it('is posted to the account between the two, never to income or costs', async () => {
    const { id } = await mo.payee('Oakes Haulage', 'relatedBusiness');
    const line = await mo.addLine(everyday, '2026-03-02', -5_000, 'OAKES HAULAGE');
    await expect(mo.post([line.id], await codingTo('6010', id))).rejects.toThrow(
      'RELATED_ACCOUNT_MISSING',
    );
    await mo.changePayee(id, { makesAccounts: true });
    const between = (await payeeOf(id))?.accountId ?? '';
    expect(await accountOf(between)).toMatchObject({
      name: 'Between us and Oakes Haulage',
      type: 'liability',
    });
    for (const code of ['6010', '4010', '3020', '1500']) {
      await expect(mo.post([line.id], await codingTo(code, id))).rejects.toThrow('RELATED_ACCOUNT');
    }
    await mo.post([line.id], mo.codingTo(between, id));
    expect((await mo.balances())[between]).toBe(5_000);
  });

  it('is held to that in bills, by hand and in journals too', async () => {
    const { id } = await mo.payee('Oakes Haulage', 'relatedBusiness');
    await mo.changePayee(id, { makesAccounts: true });
    const between = (await payeeOf(id))?.accountId ?? '';
    const freight = await mo.accountId('6010');
    const part = { accountId: freight, taxCodeId: null, share: { kind: 'rest' }, tax: null };
    const payment = {
      kind: 'payment',
      date: '2026-03-02',
      note: null,
      bankAccountId: everyday,
      amount: 100,
      number: null,
      payeeId: id,
      parts: [part],
    };
    await expect(mo.enter(payment)).rejects.toThrow('RELATED_ACCOUNT');
    await mo.enter({ ...payment, parts: [{ ...part, accountId: between }] });
    const journal = (accountId: string) => ({
      kind: 'journal',
      date: '2026-03-02',
      note: null,
      number: null,
      payeeId: id,
      legs: [
        { accountId, amount: 700 },
        { accountId: between, amount: -700 },
      ],
    });
    await expect(mo.enter(journal(freight))).rejects.toThrow('RELATED_ACCOUNT');
    await mo.enter(journal(await mo.accountId('2400')));
    const bill = {
      kind: 'bill',
      side: 'payables',
      number: '1',
      payeeId: id,
      date: '2026-03-02',
      dueDate: null,
      note: null,
      lines: [{ text: 'Lorry', accountId: freight, taxCodeId: null, amount: 500, tax: null }],
    };
    await expect(mo.document(bill)).rejects.toThrow('RELATED_ACCOUNT');
  });

  it('is proposed there, though look-alikes went to a cost before it was said', async () => {
    const { id } = await mo.payee('Oakes Haulage');
    for (const day of ['02', '03', '04', '05', '06']) {
      const line = await mo.addLine(everyday, `2026-03-${day}`, -5_000, 'OAKES HAULAGE LORRY');
      await mo.post([line.id], await codingTo('6010', id));
    }
    await mo.addLine(everyday, '2026-03-09', -5_000, 'OAKES HAULAGE LORRY');
    const proposed = async () => {
      const [line] = await mo.open(everyday);
      return line?.proposal?.kind === 'post' ? line.proposal.coding.parts[0]?.accountId : null;
    };
    expect(await proposed()).toBe(await mo.accountId('6010'));
    await mo.changePayee(id, { kind: 'relatedBusiness', makesAccounts: true });
    await expect.poll(proposed).toBe((await payeeOf(id))?.accountId);
  });
});

describe('a cost that an owner paid privately', () => {
  const cost = async (ownerId: string | null, more: object = {}) => ({
    kind: 'paidPrivately',
    date: '2026-03-02',
    note: null,
    ownerId,
    amount: 4_850,
    number: 'R-17',
    payeeId: null,
    parts: [
      {
        accountId: await mo.accountId('6010'),
        taxCodeId: await scene.books.taxCodeId('20 %'),
        share: { kind: 'rest' },
        tax: null,
      },
    ],
    ...more,
  });
  const entryOf = (id: string) => scene.client.get<Entry>(`${mo.path}/entries/${id}`);

  it('is a cost with its tax against what that owner put in, and no bank hears of it', async () => {
    const { id: ownerId } = await mo.payee('Mo Oakes', 'owner');
    await mo.changePayee(ownerId, { makesAccounts: true });
    const capital = (await payeeOf(ownerId))?.capitalAccountId ?? '';
    const { id, step } = await mo.enter(await cost(ownerId));
    expect(await mo.balance('6010')).toBe(4_042);
    expect(await mo.balance('2210')).toBe(808);
    expect((await mo.balances())[capital]).toBe(-4_850);
    expect((await entryOf(id)).legs[0]).toMatchObject({ accountId: capital, role: 'base' });
    const { entries } = await scene.client.get<{ entries: object[] }>(`${mo.path}/outstanding`);
    expect(entries).toEqual([]);
    await mo.undo(step);
    expect(await mo.balances()).toEqual({});
    await mo.redo(step);
    await mo.voidEntry(id);
    expect(await mo.balances()).toEqual({});
  });

  it('goes to what the books have for all owners where none is named, and to nobody else', async () => {
    await mo.enter(await cost(null));
    expect(await mo.balance('3030')).toBe(-4_850);
    const other = await mo.payee('Penhallow Clay');
    await expect(mo.enter(await cost(other.id))).rejects.toThrow('OWNER_UNKNOWN');
    const { bankAccounts } = await mo.setup();
    const parts = [
      {
        accountId: bankAccounts[0]?.accountId,
        taxCodeId: null,
        share: { kind: 'rest' },
        tax: null,
      },
    ];
    await expect(mo.enter(await cost(null, { parts }))).rejects.toThrow('PRIVATE_BANK');
  });

  it('pays a bill, and keeps its receipt', async () => {
    const supplier = await mo.payee('Penhallow Clay');
    const bill = await mo.document({
      kind: 'bill',
      side: 'payables',
      number: '1',
      payeeId: supplier.id,
      date: '2026-03-01',
      dueDate: null,
      note: null,
      lines: [
        {
          text: 'Clay',
          accountId: await mo.accountId('5000'),
          taxCodeId: null,
          amount: 4_850,
          tax: null,
        },
      ],
    });
    const settles = [{ documentId: bill.id, amount: -4_850 }];
    const { id } = await mo.enter(await cost(null, { payeeId: supplier.id, settles, parts: [] }));
    expect(await mo.documentOf(bill.id)).toMatchObject({ open: 0 });
    expect(await mo.balance('2000')).toBe(0);
    const place = `${mo.path}/entries/${id}/attachments?fileName=receipt.pdf`;
    const answer = await scene.harness.app.inject({
      method: 'POST',
      url: place,
      headers: { cookie: scene.client.cookie, 'content-type': 'application/octet-stream' },
      payload: Buffer.from('%PDF-1.4 a receipt'),
    });
    expect(answer.statusCode).toBe(200);
    const { attachments } = await entryOf(id);
    expect(attachments).toEqual([{ id: answer.json().id, fileName: 'receipt.pdf' }]);
    const nowhere = await scene.harness.app.inject({
      method: 'POST',
      url: place.replace(id, bill.id),
      headers: { cookie: scene.client.cookie, 'content-type': 'application/octet-stream' },
      payload: Buffer.from('%PDF-1.4 a receipt'),
    });
    expect(nowhere.json()).toMatchObject({ code: 'ENTRY_UNKNOWN' });
  });
});
