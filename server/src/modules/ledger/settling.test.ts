import type { DocumentSheet } from '@zubrell/contract/documents';
import type { Entry, LedgerRows } from '@zubrell/contract/ledger';
import type { PairingView } from '@zubrell/contract/pairing';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let everyday: string;
let freight: string;
let sales: string;
let clay: string;

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  everyday = scene.books.bankAccountId;
  freight = await mo.accountId('6010');
  sales = await mo.accountId('4010');
  clay = (await mo.payee('Penhallow Clay')).id;
});

let files = 0;
/** Keeps a file with lines on days of March; they are in order of their dates. */
async function keep(...lines: readonly (readonly [day: number, amount: number, text: string])[]) {
  files += 1;
  const rows = lines.map(([day, amount, text], at) => ({
    date: `2026-03-${String(day).padStart(2, '0')}`,
    amount: (amount / 100).toFixed(2),
    text,
    id: `F${files}L${at}`,
  }));
  const closing = 100_000 + lines.reduce((sum, [, amount]) => sum + amount, 0);
  await scene.books.keep(`file${files}.ofx`, ofxFile(rows, (closing / 100).toFixed(2)));
  const texts = lines.map(([, , text]) => text);
  return (await mo.open())
    .filter(({ description }) => texts.includes(description))
    .sort((a, b) => (a.date < b.date ? -1 : 1))
    .map(({ id }) => id);
}
const paper = async (
  kind: 'bill' | 'invoice' | 'creditNote',
  number: string,
  amount: number,
  side: 'payables' | 'receivables' = kind === 'bill' ? 'payables' : 'receivables',
) =>
  (
    await mo.document({
      kind,
      side,
      number,
      payeeId: clay,
      date: '2026-03-01',
      dueDate: null,
      note: null,
      lines: [
        {
          text: '',
          accountId: side === 'payables' ? freight : sales,
          taxCodeId: null,
          amount,
          tax: null,
        },
      ],
    })
  ).id;
const hand = (kind: string, amount: number, change: object = {}) => ({
  kind,
  date: '2026-03-05',
  note: null,
  bankAccountId: everyday,
  amount,
  number: kind === 'cheque' ? '001042' : null,
  payeeId: clay,
  parts: [],
  ...change,
});
const settles = (documentId: string, amount: number) => ({ settles: [{ documentId, amount }] });
const view = (lineId: string) =>
  scene.client.get<PairingView>(`${mo.path}/pairing?lineId=${lineId}`);
const entryOf = (id: string) => scene.client.get<Entry>(`${mo.path}/entries/${id}`);
const openOf = async (id: string) => (await mo.documentOf(id)).open;

describe('a payment entered by hand', () => {
  it('settles a bill before the bank reports it, and its line is it', async () => {
    const bill = await paper('bill', 'B2093', 4_850);
    const cheque = await mo.enter(hand('cheque', 4_850, settles(bill, -4_850)));
    expect(await mo.documentOf(bill)).toMatchObject({
      open: 0,
      payments: [{ amount: -4_850, lines: [], entry: { id: cheque.id, kind: 'cheque' } }],
    } satisfies Partial<{ [K in keyof DocumentSheet]: unknown }>);
    expect(await mo.balance('2000')).toBe(0);
    expect(await entryOf(cheque.id)).toMatchObject({ pays: [{ number: 'B2093' }] });

    const [line = ''] = await keep([9, -4_850, 'PENHALLOW CLAY B2093']);
    const { fits, sets } = await view(line);
    expect(fits.map(({ kind, pays, named }) => [kind, pays, named.includes('Clay')])).toEqual([
      ['cheque', ['B2093'], true],
    ]);
    expect(sets).toEqual([]);
    await mo.pair([line], [fits[0]?.id ?? '']);
    expect(await openOf(bill)).toBe(0);
    expect(await mo.balance('6010')).toBe(4_850);
    expect(await mo.balance('2000')).toBe(0);
    expect(await mo.proof(everyday)).toMatchObject({ outstanding: 0, unexplained: 0 });
  });

  it('is found by the number of the bill that it pays', async () => {
    const bill = await paper('bill', '77093', 4_850);
    await mo.enter(hand('payment', 4_850, { ...settles(bill, -4_850), date: '2026-03-08' }));
    const [line = ''] = await keep([9, -4_850, 'TRANSFER 77093']);
    const { proposal } = await mo.line(line);
    expect(proposal).toMatchObject({ kind: 'pair', targets: [{ kind: 'payment' }] });
  });

  it('may settle a part, several less a credit note, and code or keep what is more', async () => {
    const first = await paper('bill', '1', 4_000);
    const note = await paper('creditNote', '2', 1_000, 'payables');
    await mo.enter(
      hand('payment', 3_500, {
        settles: [
          { documentId: first, amount: -4_000 },
          { documentId: note, amount: 1_000 },
        ],
        parts: [{ accountId: freight, taxCodeId: null, share: { kind: 'rest' }, tax: null }],
      }),
    );
    expect([await openOf(first), await openOf(note)]).toEqual([0, 0]);
    expect(await mo.balance('6010')).toBe(4_000 - 1_000 + 500);
    const second = await paper('bill', '3', 2_000);
    await mo.enter(hand('payment', 700, settles(second, -700)));
    expect(await openOf(second)).toBe(-1_300);
    await mo.enter(hand('payment', 1_500, { ...settles(second, -1_300), leavesCredit: true }));
    const { documents } = await scene.client.get<{ documents: { kind: string; open: number }[] }>(
      `${mo.path}/documents?side=payables&state=open`,
    );
    expect(documents).toMatchObject([{ kind: 'credit', open: 200 }]);
    expect(await mo.balance('2000')).toBe(200);
  });

  it('gives back what it settled when it is changed, voided or undone', async () => {
    const bill = await paper('bill', '1', 4_000);
    const made = await mo.enter(hand('payment', 4_000, settles(bill, -4_000)));
    const put = (entry: object) =>
      scene.client.send<{ id: string }>('PUT', `${mo.path}/entries/${made.id}`, { entry });
    const { id: changed } = await put(hand('payment', 1_000, settles(bill, -1_000)));
    expect(await openOf(bill)).toBe(-3_000);
    await mo.undo();
    expect(await openOf(bill)).toBe(0);
    await mo.redo();
    expect(await openOf(bill)).toBe(-3_000);
    await mo.voidEntry(changed);
    expect(await openOf(bill)).toBe(-4_000);
    await mo.undo();
    expect(await openOf(bill)).toBe(-3_000);
    expect(await mo.balance('2000')).toBe(-3_000);
  });

  it('can’t be changed or undone alone under the credit that it left', async () => {
    const advance = await mo.enter(hand('payment', 4_000, { leavesCredit: true }));
    const bill = await paper('bill', '1', 4_000);
    const { documents } = await scene.client.get<{ documents: { id: string; kind: string }[] }>(
      `${mo.path}/documents?side=payables&state=open`,
    );
    const credit = documents.find(({ kind }) => kind === 'credit')?.id ?? '';
    const offset = await mo.offset([bill, credit]);
    expect(await openOf(bill)).toBe(0);
    await expect(mo.voidEntry(advance.id)).rejects.toThrow('ENTRY_IN_USE');
    await expect(mo.undo(advance.step)).rejects.toThrow(offset.words);
    await mo.undo(advance.step, true);
    expect(await openOf(bill)).toBe(-4_000);
    expect(await mo.balance('2000')).toBe(-4_000);
  });

  it('comes back from the bank, and opens its bill again', async () => {
    const bill = await paper('bill', '20931', 4_850);
    await mo.enter(hand('cheque', 4_850, settles(bill, -4_850)));
    const [out = '', back = ''] = await keep(
      [9, -4_850, 'CHEQUE 001042'],
      [12, 4_850, 'RETURNED CHEQUE PENHALLOW CLAY'],
    );
    const [cheque] = (await view(out)).fits;
    await mo.pair([out], [cheque?.id ?? '']);
    const returned = (await view(back)).fits.find(({ kind }) => kind === 'returned');
    await mo.pair([back], [returned?.id ?? '']);
    expect(await openOf(bill)).toBe(-4_850);
    expect(await mo.balance('2000')).toBe(-4_850);
  });

  it.each([
    [
      'more than is open',
      (bill: string) => hand('payment', 5_000, settles(bill, -5_000)),
      'SETTLE_MORE',
    ],
    [
      'more than its money',
      (bill: string) => hand('payment', 1_000, settles(bill, -4_000)),
      'SETTLE_OVER',
    ],
    [
      'the other way',
      (bill: string) => hand('receipt', 4_000, settles(bill, -4_000)),
      'PAIR_DIRECTION',
    ],
    [
      'another’s',
      (bill: string) => hand('payment', 4_000, { ...settles(bill, -4_000), payeeId: null }),
      'SETTLE_PAYEE',
    ],
    ['nothing and no account', () => hand('payment', 4_000), 'SPLIT_EMPTY'],
    [
      'all and an account too',
      (bill: string) =>
        hand('payment', 4_000, {
          ...settles(bill, -4_000),
          parts: [{ accountId: freight, taxCodeId: null, share: { kind: 'rest' }, tax: null }],
        }),
      'SETTLE_NOTHING_LEFT',
    ],
  ])('does not settle %s', async (_what, entry, code) => {
    const bill = await paper('bill', '1', 4_000);
    await expect(mo.enter(entry(bill))).rejects.toThrow(code);
    expect(await openOf(bill)).toBe(-4_000);
  });

  it('does not settle twice what another payment settled', async () => {
    const bill = await paper('bill', '1', 4_000);
    await mo.enter(hand('payment', 4_000, settles(bill, -4_000)));
    await expect(mo.enter(hand('payment', 4_000, settles(bill, -4_000)))).rejects.toThrow(
      'PAIR_TAKEN',
    );
  });
});

describe('money in advance', () => {
  it('stays as credit with the payee, and settles the bill that comes', async () => {
    const [line = ''] = await keep([9, -6_000, 'PENHALLOW CLAY DEPOSIT']);
    const done = await mo.pair([line], [], { kind: 'onAccount', payeeId: clay });
    expect(done.words).toBe('Kept 60.00 as credit with Penhallow Clay');
    expect(await mo.balance('2000')).toBe(6_000);
    await expect(
      mo.pair([line], [], { kind: 'onAccount', payeeId: clay }).then(({ step }) => step),
    ).resolves.toBeNull();
    await mo.undo();
    expect(await mo.balance('2000')).toBe(0);
    await expect(mo.pair([line], [], { kind: 'onAccount' })).rejects.toThrow('PAIR_ON_ACCOUNT');
    await expect(
      mo.pair([line], [], { kind: 'onAccount', payeeId: crypto.randomUUID() }),
    ).rejects.toThrow('PAYEE_UNKNOWN');
  });
});

describe('a bill and an invoice of one payee', () => {
  it('are set against each other without money, and come apart by undo', async () => {
    const bill = await paper('bill', '1', 4_000);
    const invoice = await paper('invoice', '2', 5_500);
    await scene.client.send('POST', `${mo.path}/documents/offset`, {
      documentIds: [bill, invoice],
      date: '2026-03-15',
    });
    expect([await openOf(bill), await openOf(invoice)]).toEqual([0, 1_500]);
    expect([await mo.balance('2000'), await mo.balance('1200')]).toEqual([0, 1_500]);
    await mo.undo();
    expect([await openOf(bill), await openOf(invoice)]).toEqual([-4_000, 5_500]);
    expect([await mo.balance('2000'), await mo.balance('1200')]).toEqual([-4_000, 5_500]);
    await mo.redo();
    expect([await mo.balance('2000'), await mo.balance('1200')]).toEqual([0, 1_500]);
  });
});

describe('several lines for one invoice', () => {
  it('date each part by its own line, with the fee in the last', async () => {
    const invoice = await paper('invoice', '2', 10_000);
    const lines = await keep([9, 5_000, 'CLAY FIRST'], [12, 4_860, 'CLAY SECOND']);
    const tax = (await mo.setup()).taxCodes.find(({ name }) => name === '20 %')?.id ?? '';
    await mo.pair(lines, [invoice], {
      kind: 'code',
      accountId: await mo.accountId('6900'),
      taxCodeId: tax,
      reason: 'fee kept back',
    });
    expect(await mo.balance('6900')).toBe(117);
    expect(await mo.balance('2210')).toBe(23);
    expect(await mo.balance('1200')).toBe(0);
    const { items } = await scene.client.get<LedgerRows>(
      `${mo.path}/accounts/${await mo.accountId('1200')}/register`,
    );
    expect(items.map(({ date, amount }) => [date.slice(8), amount]).sort()).toEqual([
      ['01', 10_000],
      ['09', -5_000],
      ['12', -5_000],
    ]);
    expect(await mo.proof(everyday, '2026-03-10')).toMatchObject({
      unexplained: 0,
      outstanding: 0,
    });
  });

  it('take no difference to a bank account, and no payment the other way', async () => {
    const invoice = await paper('invoice', '2', 10_000);
    const [line = '', out = ''] = await keep([9, 9_860, 'CLAY'], [12, -9_860, 'CLAY OUT']);
    const rest = (accountId: string) =>
      ({ kind: 'code', accountId, taxCodeId: null, reason: 'rest' }) as const;
    const bank = (await mo.setup()).bankAccounts[0]?.accountId ?? '';
    await expect(mo.pair([line], [invoice], rest(bank))).rejects.toThrow('PAIR_BANK');
    await expect(mo.pair([out], [invoice], rest(sales))).rejects.toThrow('PAIR_DIRECTION');
  });
});

describe('a journal', () => {
  const journal = (accountId: string, change: object = {}) => ({
    kind: 'journal',
    date: '2026-03-05',
    note: null,
    number: null,
    payeeId: null,
    legs: [
      { accountId, amount: 100 },
      { accountId: freight, amount: -100 },
    ],
    ...change,
  });

  it('does not post to what documents keep, and names who and what is not there', async () => {
    await expect(mo.enter(journal(await mo.accountId('2000')))).rejects.toThrow('ACCOUNT_CONTROL');
    await expect(mo.enter(journal(crypto.randomUUID()))).rejects.toThrow('ACCOUNT_UNKNOWN');
    await expect(mo.enter(journal(sales, { payeeId: crypto.randomUUID() }))).rejects.toThrow(
      'PAYEE_UNKNOWN',
    );
    await mo.enter(journal(sales));
    expect(await mo.balance('6010')).toBe(-100);
  });
});
