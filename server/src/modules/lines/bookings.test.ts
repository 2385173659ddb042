import type { Entry } from '@zubrell/contract/ledger';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let everyday: string;

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  everyday = scene.books.bankAccountId;
});

const line = async (amount: number, text: string, date = '2026-03-10') =>
  (await mo.addLine(everyday, date, amount, text)).id;
const taxCode = async (name: string) =>
  (await mo.setup()).taxCodes.find((code) => code.name === name)?.id ?? null;
const changeAccount = (id: string, change: object) =>
  scene.client.send('PATCH', `${mo.path}/accounts/${id}`, change);

describe('tax', () => {
  it.each([
    ['drawings', '3020'],
    ['loans', '2400'],
    ['deposits', '1300'],
  ])('is refused on %s, with the reason', async (_what, code) => {
    const id = await line(-12_000, 'PRIVATE');
    const coding = mo.codingTo(await mo.accountId(code), null, await taxCode('20 %'));
    await expect(mo.post([id], coding)).rejects.toThrow('takes no tax');
  });

  it('of a reverse charge is the customer’s on a sale, and ours on a purchase', async () => {
    const reverse = await taxCode('Reverse charge 20 %');
    const sale = await line(12_000, 'EXPORT SALE');
    const purchase = await line(-10_000, 'IMPORTED CLAY');
    await mo.post([sale], mo.codingTo(await mo.accountId('4010'), null, reverse));
    expect([await mo.balance('4010'), await mo.balance('2220')]).toEqual([-12_000, 0]);
    await mo.post([purchase], mo.codingTo(await mo.accountId('5000'), null, reverse));
    expect([await mo.balance('5000'), await mo.balance('2210'), await mo.balance('2220')]).toEqual([
      10_000, 2_000, -2_000,
    ]);
  });

  it('is not proposed again where it was put by mistake before', async () => {
    const drawings = await mo.accountId('3020');
    const made = await mo.account('6990', 'Private things');
    const before = await Promise.all(
      [1, 2, 3].map((day) => line(-2_000 - day, 'CORNER GROCER', `2026-03-0${day}`)),
    );
    await mo.post(before, mo.codingTo(made.id, null, await taxCode('20 %')));
    await mo.recode(before, { accountId: drawings, taxCodeId: null });
    const next = await line(-2_050, 'CORNER GROCER', '2026-03-20');
    const { proposal } = await mo.line(next);
    expect(proposal).toMatchObject({
      kind: 'post',
      coding: { parts: [{ accountId: drawings, taxCodeId: null }] },
    });
  });
});

describe('receivables and payables', () => {
  it('are coded to by documents and payments alone', async () => {
    const id = await line(-12_000, 'PENHALLOW CLAY');
    for (const code of ['1200', '2000']) {
      const coding = mo.codingTo(await mo.accountId(code));
      await expect(mo.post([id], coding)).rejects.toThrow('ACCOUNT_CONTROL');
    }
  });

  it('stay where they are while documents are open, and go to no income or bank account', async () => {
    const payables = await mo.accountId('2000');
    const other = (
      await scene.client.send<{ id: string }>('POST', `${mo.path}/accounts`, {
        code: '2050',
        name: 'Trade payables',
        type: 'liability',
        parentId: null,
      })
    ).id;
    const { id: payeeId } = await mo.payee('Penhallow Clay');
    const bill = await mo.document({
      kind: 'bill',
      side: 'payables',
      number: '1',
      payeeId,
      date: '2026-03-01',
      dueDate: null,
      note: null,
      lines: [
        {
          text: '',
          accountId: await mo.accountId('5000'),
          taxCodeId: null,
          amount: 100,
          tax: null,
        },
      ],
    });
    const role = { role: 'payables' };
    await expect(changeAccount(other, role)).rejects.toThrow('ACCOUNT_ROLE_OPEN');
    await expect(changeAccount(payables, { role: null })).rejects.toThrow('ACCOUNT_ROLE_OPEN');
    await mo.voidDocument(bill.id);
    await changeAccount(other, role);
    for (const code of ['4010', '1010']) {
      await expect(
        changeAccount(await mo.accountId(code), { role: 'receivables' }),
      ).rejects.toThrow('ACCOUNT_ROLE_TYPE');
    }
  });
});

describe('one word for both directions', () => {
  it('is not proposed as income for money that goes out', async () => {
    const interest = await mo.accountId('4090');
    const before = await Promise.all(
      [1, 2, 3].map((day) => line(110 + day, 'INTEREST', `2026-03-0${day}`)),
    );
    await mo.post(before, mo.codingTo(interest));
    const out = await line(-421, 'INTEREST', '2026-03-20');
    const again = await line(112, 'INTEREST', '2026-03-21');
    expect((await mo.line(again)).proposal).toMatchObject({
      coding: { parts: [{ accountId: interest }] },
    });
    const { proposal } = await mo.line(out);
    const accounts =
      proposal?.kind === 'post' ? proposal.coding.parts.map(({ accountId }) => accountId) : [];
    expect(accounts).not.toContain(interest);
  });
});

describe('a line that comes for a closed month', () => {
  it('is shown as late and held, whatever is proposed, until somebody decides', async () => {
    const freight = await mo.accountId('6010');
    const before = await Promise.all(
      [1, 2, 3].map((day) => line(-4_850, 'TIDEMARK', `2026-03-0${day}`)),
    );
    await mo.post(before, mo.codingTo(freight));
    await mo.settings({ lockDate: '2026-03-31' });
    const rows = [{ date: '2026-03-15', amount: '-48.50', text: 'TIDEMARK', id: 'T' }];
    await scene.books.keep('late.ofx', ofxFile(rows, '806.00'));
    const late = (await mo.open()).find(({ date }) => date === '2026-03-15')?.id ?? '';
    const open = await mo.line(late);
    expect(open).toMatchObject({ held: 'late' });
    expect((await mo.post([late], mo.codingTo(freight))).done).toEqual([late]);
    const { entryId } = await mo.line(late);
    const entry = await scene.client.get<Entry>(`${mo.path}/entries/${entryId}`);
    expect(entry).toMatchObject({ date: '2026-04-01', bankDate: '2026-03-15' });
    await mo.undo();
    await mo.settings({ lockDate: null });
    expect(await mo.line(late)).toMatchObject({ held: null });
  });
});
