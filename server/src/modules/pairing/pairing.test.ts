import type { BooksSetup } from '@zubrell/contract/books';
import type { DeskLine, LinesDone, Proposal, SweepSummary } from '@zubrell/contract/desk';
import type { DocumentSheet, ListedDocument } from '@zubrell/contract/documents';
import type { Balances, Entry, LedgerRows, Outstanding } from '@zubrell/contract/ledger';
import type { PairingView } from '@zubrell/contract/pairing';
import { beforeEach, describe, expect, it } from 'vitest';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { lanes, lineIds, proof, undo } = scene;
const SEEN = { seenStep: 1e6 };

let payees: Record<string, string>;
let pot: string;

beforeEach(async () => {
  payees = {};
  for (const [name, kind] of [
    ['Nettle and Thread', 'customer'],
    ['Penhallow Clay', 'supplier'],
  ] as const) {
    const made = await scene.client.send<{ id: string }>('POST', `${scene.path}/payees`, {
      name,
      kind,
    });
    payees[name] = made.id;
  }
  pot = (
    await scene.client.send<{ id: string }>('POST', `${scene.path}/bank-accounts`, {
      name: 'Tax pot',
      kind: 'savings',
      bank: 'Wick & Alder',
      number: '4480',
    })
  ).id;
});

async function document(
  kind: 'bill' | 'invoice',
  number: string,
  amount: number,
  { date, dueDate = null }: { readonly date: string; readonly dueDate?: string | null },
): Promise<string> {
  const isBill = kind === 'bill';
  const { id } = await scene.client.send<{ id: string }>('POST', `${scene.path}/documents`, {
    kind,
    side: isBill ? 'payables' : 'receivables',
    number,
    payeeId: payees[isBill ? 'Penhallow Clay' : 'Nettle and Thread'],
    date,
    dueDate,
    lines: [
      {
        text: isBill ? 'Clay' : 'Bowls',
        accountId: await scene.books.accountId(isBill ? '5000' : '4010'),
        taxCodeId: await scene.books.taxCodeId('20 %'),
        amount,
        tax: null,
      },
    ],
    note: null,
  });
  return id;
}

async function cheque(number: string, amount: number, date: string): Promise<string> {
  const part = { accountId: await scene.books.accountId('5000'), taxCodeId: null, tax: null };
  const { id } = await scene.client.send<{ id: string }>('POST', `${scene.path}/entries`, {
    entry: {
      kind: 'cheque',
      date,
      note: null,
      bankAccountId: scene.books.bankAccountId,
      amount,
      number,
      payeeId: payees['Penhallow Clay'],
      parts: [{ ...part, share: { kind: 'rest' } }],
    },
  });
  return id;
}

const keep = (lines: readonly { date: string; amount: string; text: string }[]) =>
  scene.books.keep(
    'march.ofx',
    ofxFile(
      lines.map((line, at) => ({ ...line, id: `L${at}` })),
      String(1_000 + lines.reduce((sum, { amount }) => sum + Number(amount), 0)),
    ),
  );
const sheet = (id: string) => scene.client.get<DeskLine>(`${scene.path}/lines/${id}`);
const view = (id: string, search = '') =>
  scene.client.get<PairingView>(
    `${scene.path}/pairing?${new URLSearchParams({ lineId: id, search })}`,
  );
const pair = (
  ids: readonly string[],
  targetIds: readonly string[],
  difference: object | null = null,
) =>
  scene.client.send<LinesDone>('POST', `${scene.path}/lines/pair`, {
    lineIds: ids,
    targetIds,
    difference,
    ...SEEN,
  });
const documentOf = (id: string) => scene.client.get<DocumentSheet>(`${scene.path}/documents/${id}`);
const balance = async (code: string) => {
  const accountId = await scene.books.accountId(code);
  const { balances } = await scene.client.get<Balances>(`${scene.path}/balances`);
  return balances.find((each) => each.accountId === accountId)?.amount ?? 0;
};
const targetsOf = (proposal: Proposal | null) =>
  proposal?.kind === 'pair' ? proposal.targets.map(({ id }) => id) : null;

describe('documents', () => {
  it('post to receivables and payables with their tax', async () => {
    await document('bill', '2093', 12_000, { date: '2026-03-02' });
    await document('invoice', '1042', 60_000, { date: '2026-03-03' });
    expect(await balance('2000')).toBe(-12_000);
    expect(await balance('2210')).toBe(2_000);
    expect(await balance('5000')).toBe(10_000);
    expect(await balance('1200')).toBe(60_000);
    expect(await balance('2220')).toBe(-10_000);
    await undo();
    expect(await balance('1200')).toBe(0);
    await scene.client.send('POST', `${scene.path}/steps/redo`, { step: null });
    expect(await balance('1200')).toBe(60_000);
  });

  it('are not coded to a bank account: money moves there only by a line or an entry', async () => {
    const { bankAccounts } = await scene.books.setup();
    const wanted = {
      kind: 'bill',
      side: 'payables',
      number: '1',
      payeeId: payees['Penhallow Clay'],
      date: '2026-03-02',
      dueDate: null,
      note: null,
      lines: [
        {
          text: '',
          accountId: bankAccounts[0]?.accountId,
          taxCodeId: null,
          amount: 100,
          tax: null,
        },
      ],
    };
    await expect(scene.client.send('POST', `${scene.path}/documents`, wanted)).rejects.toThrow(
      'ACCOUNT_IS_BANK',
    );
  });

  it('come in once by number, and are changed only while nothing is paid of them', async () => {
    const id = await document('bill', '2093', 12_000, { date: '2026-03-02' });
    await expect(document('bill', '2093', 9_000, { date: '2026-03-05' })).rejects.toThrow(
      'DOCUMENT_THERE',
    );
    const { lines, ...typed } = await documentOf(id);
    const { kind, side, number, payeeId, date, dueDate, note } = typed;
    const changed = {
      kind,
      side,
      number,
      payeeId,
      date,
      dueDate,
      note,
      lines: [{ ...lines[0], amount: 13_200 }],
    };
    await scene.client.send('PUT', `${scene.path}/documents/${id}`, { document: changed, ...SEEN });
    expect(await balance('2000')).toBe(-13_200);
    await keep([{ date: '2026-03-20', amount: '-132.00', text: 'PENHALLOW CLAY 2093' }]);
    await pair(await lineIds('ready'), [id]);
    await expect(
      scene.client.send('POST', `${scene.path}/documents/${id}/void`, SEEN),
    ).rejects.toThrow('DOCUMENT_PAID');
  });

  it('come from a file as a whole or not at all', async () => {
    const send = (text: string, makePayees = false) =>
      scene.client.send<{ count: number; problems: object[]; newPayees: string[] }>(
        'POST',
        `${scene.path}/documents/import`,
        { text, makePayees },
      );
    const head = 'Kind;Number;Payee;Date;Due;Amount;Account;Tax\n';
    const good = 'bill;77;Penhallow Clay;02.03.2026;01.04.2026;312,40;5000;20 %\n';
    expect(
      await send(`${head}${good}bill;78;Penhallow Clay;31.02.2026;;5,00;5000;\n`),
    ).toMatchObject({
      count: 0,
      problems: [{ row: 3, message: '31 February doesn’t exist.' }],
    });
    expect(
      await send(`${head}${good}bill;9;Gorsefield Gas;03.03.2026;;80,00;5000;5 %\n`),
    ).toMatchObject({
      count: 0,
      newPayees: ['Gorsefield Gas'],
    });
    expect(
      await send(`${head}${good}bill;9;Gorsefield Gas;03.03.2026;;80,00;;5 %\n`, true),
    ).toMatchObject({
      count: 0,
      problems: [{ row: 3, message: expect.stringContaining('The account is missing') }],
    });
    const names = (await scene.client.get<BooksSetup>(`${scene.path}/setup`)).payees.map(
      ({ name }) => name,
    );
    expect(names).not.toContain('Gorsefield Gas');
    expect(await balance('2000')).toBe(0);
    const all = `${head}${good}bill;9;Gorsefield Gas;03.03.2026;;80,00;5000;5 %\n`;
    expect(await send(all, true)).toMatchObject({ count: 2, problems: [] });
    expect(await balance('2000')).toBe(-39_240);
  });
});

describe('receipts', () => {
  it('cast a doubt on coding their payout as something new, though that was Ready before', async () => {
    const payout = (month: string, amount: string) => ({
      date: `2026-${month}-18`,
      amount,
      text: 'NETTLE AND THREAD PAYOUT',
    });
    await keep([payout('01', '300.00'), payout('02', '310.00'), payout('03', '305.00')]);
    await scene.post(await lineIds(), '4010');
    await keepMore('2026-04-02', '302.10', 'NETTLE AND THREAD PAYOUT');
    expect(await lanes()).toMatchObject({ ready: 1 });
    for (const [date, amount] of [
      ['2026-03-30', 20_000],
      ['2026-03-31', 10_600],
    ] as const) {
      const part = { accountId: await scene.books.accountId('4010'), taxCodeId: null, tax: null };
      await scene.client.send('POST', `${scene.path}/entries`, {
        entry: {
          kind: 'receipt',
          date,
          note: null,
          bankAccountId: scene.books.bankAccountId,
          amount,
          number: null,
          payeeId: payees['Nettle and Thread'],
          parts: [{ ...part, share: { kind: 'rest' } }],
        },
      });
    }
    const [line = ''] = await lineIds('check');
    expect((await sheet(line)).proposal?.doubts).toMatchObject([
      { kind: 'nearlyInBooks', by: -390, because: 'fee' },
    ]);
  });
});

describe('entries', () => {
  it('come from a file, one a row, with what is wrong by row', async () => {
    const send = (text: string) =>
      scene.client.send<{ count: number; problems: object[] }>(
        'POST',
        `${scene.path}/entries/import`,
        {
          text,
          makePayees: false,
        },
      );
    const head = 'Kind,Date,Amount,Bank account,Number,Payee,Account,To\n';
    const wrong = 'cheque,2026-03-02,48.50,Nowhere,7,,5000,\ngift,2026-03-02,0,Everyday,,,9999,\n';
    expect((await send(head + wrong)).problems).toEqual([
      { row: 2, message: 'There is no bank account “Nowhere”.' },
      { row: 3, message: expect.stringContaining('“gift” is no kind') },
      { row: 3, message: 'The amount is nil.' },
      { row: 3, message: 'There is no account “9999”.' },
    ]);
    const right =
      'cheque,2026-03-02,48.50,Everyday,000007,Penhallow Clay,5000,\n' +
      'transfer,2026-03-03,500.00,Everyday,,,,Tax pot\n';
    expect(await send(head + right)).toMatchObject({ count: 2, problems: [] });
    const { entries } = await scene.client.get<Outstanding>(`${scene.path}/outstanding`);
    expect(entries.map(({ kind, amount }) => [kind, amount])).toEqual(
      expect.arrayContaining([
        ['cheque', -4_850],
        ['transfer', -50_000],
        ['transfer', 50_000],
      ]),
    );
    await undo();
    expect(await scene.client.get(`${scene.path}/outstanding`)).toEqual({ entries: [] });
  });

  it('of a journal balance, or are refused with both sums', async () => {
    const [debit, credit] = [
      await scene.books.accountId('6090'),
      await scene.books.accountId('2300'),
    ];
    const journal = (amount: number) =>
      scene.client.send('POST', `${scene.path}/entries`, {
        entry: {
          kind: 'journal',
          date: '2026-03-31',
          note: 'repairs by staff, owed',
          number: null,
          payeeId: null,
          legs: [
            { accountId: debit, amount: 9_000 },
            { accountId: credit, amount },
          ],
        },
      });
    await expect(journal(-8_000)).rejects.toThrow('Debits total 90.00 and credits 80.00');
    await journal(-9_000);
    expect(await balance('6090')).toBe(9_000);
  });
});

describe('a line that is in the books already', () => {
  it('is proposed to be paired, pays the invoice, and gives it back when undone', async () => {
    const invoice = await document('invoice', '1042', 64_000, {
      date: '2026-02-24',
      dueDate: '2026-03-22',
    });
    await keep([{ date: '2026-03-23', amount: '640.00', text: 'FPI NETTLE THREAD LTD INV 1042' }]);
    expect(await lanes()).toMatchObject({ ready: 1 });
    const [line = ''] = await lineIds('ready');
    expect(targetsOf((await sheet(line)).proposal)).toEqual([invoice]);
    const done = await pair([line], [invoice]);
    expect(done).toMatchObject({ words: 'Paired 1 line with Invoice 1042 of Nettle and Thread' });
    expect(await balance('1200')).toBe(0);
    expect(await balance('4010')).toBe(-53_333);
    expect(await documentOf(invoice)).toMatchObject({
      open: 0,
      payments: [{ lines: [{ id: line }] }],
    });
    expect((await sheet(line)).decision).toMatchObject({
      kind: 'paired',
      paired: [{ id: invoice }],
    });
    expect(await proof()).toMatchObject({ unexplained: 0, outstanding: 0 });
    await undo();
    expect(await documentOf(invoice)).toMatchObject({ open: 64_000, payments: [] });
    expect(await lanes()).toMatchObject({ ready: 1, paired: 0 });
    expect(await proof()).toMatchObject({ unexplained: 0 });
  });

  it('leaves an entry as it was, both when paired and when given back', async () => {
    const entryId = await cheque('001042', 48_50, '2026-02-20');
    const outstanding = () => scene.client.get<Outstanding>(`${scene.path}/outstanding`);
    expect((await outstanding()).entries).toMatchObject([{ entryId, age: 47, isStale: false }]);
    await keep([{ date: '2026-03-10', amount: '-48.50', text: 'CHEQUE 1042' }]);
    const [line = ''] = await lineIds('ready');
    const [target = ''] = targetsOf((await sheet(line)).proposal) ?? [];
    await pair([line], [target]);
    expect(await balance('5000')).toBe(4_850);
    expect((await outstanding()).entries).toEqual([]);
    const entry = () => scene.client.get<Entry>(`${scene.path}/entries/${entryId}`);
    expect(await entry()).toMatchObject({ isVoid: false, lines: [{ id: line }] });
    await expect(
      scene.client.send('POST', `${scene.path}/entries/${entryId}/void`, {}),
    ).rejects.toThrow('ENTRY_PAIRED');
    await scene.client.send('POST', `${scene.path}/lines/reopen`, {
      target: { lineIds: [line] },
      ...SEEN,
    });
    expect(await entry()).toMatchObject({ isVoid: false, lines: [] });
    expect(await balance('5000')).toBe(4_850);
    expect(await proof()).toMatchObject({ unexplained: 0, outstanding: -4_850 });
  });

  it('is not posted as something new, unless somebody says so', async () => {
    await document('bill', '2093', 31_240, { date: '2026-03-02' });
    await keep([{ date: '2026-03-20', amount: '-312.40', text: 'PENHALLOW CLAY 2093' }]);
    const [line = ''] = await lineIds('ready');
    expect((await scene.post([line], '5000')).leftOut).toMatchObject([{ code: 'LINE_IN_BOOKS' }]);
    const coding = {
      payeeId: null,
      note: null,
      parts: [
        {
          accountId: await scene.books.accountId('5000'),
          taxCodeId: null,
          share: { kind: 'rest' },
          tax: null,
        },
      ],
    };
    const target = { lineIds: [line] };
    await scene.client.send('POST', `${scene.path}/lines/post`, {
      target,
      coding,
      isNew: true,
      ...SEEN,
    });
    expect(await lanes()).toMatchObject({ posted: 1, ready: 0 });
  });

  it('does not keep its look-alikes from being posted together, and stays itself', async () => {
    const line = (day: number, amount: string, text: string) => ({
      date: `2026-02-${String(day).padStart(2, '0')}`,
      amount,
      text,
    });
    await keep([1, 2, 3].map((day) => line(day, '-29.00', 'PENHALLOW CLAY SUP GARRAN')));
    await scene.post(await lineIds(), '5000');
    await document('bill', '2093', 31_240, { date: '2026-02-02' });
    await scene.books.keep(
      'next.ofx',
      ofxFile(
        [
          { ...line(20, '-29.00', 'PENHALLOW CLAY SUP GARRAN'), id: 'N1' },
          { ...line(21, '-29.00', 'PENHALLOW CLAY SUP GARRAN'), id: 'N2' },
          { ...line(22, '-312.40', 'PENHALLOW CLAY SUP 2093 GARRAN'), id: 'N3' },
        ],
        '542.60',
      ),
    );
    const [stack] = await scene.stacks('ready');
    expect(stack).toMatchObject({ count: 3, pairCount: 1, proposal: { kind: 'post' } });
    const done = await scene.post(await lineIds('ready'), '5000');
    expect(done.done).toHaveLength(2);
    expect(done.leftOut).toMatchObject([{ code: 'LINE_IN_BOOKS' }]);
  });

  it('says on the stack that several equal receipts fit one invoice', async () => {
    await document('invoice', '1042', 12_000, { date: '2026-03-02' });
    await keep(
      ['20', '21', '22'].map((day) => ({
        date: `2026-03-${day}`,
        amount: '120.00',
        text: 'NETTLE AND THREAD',
        id: `E${day}`,
      })),
    );
    const [stack] = await scene.stacks('check');
    expect(stack).toMatchObject({
      pairCount: 1,
      equalLines: { kind: 'equalLines', count: 2, targets: [{ kind: 'invoice', number: '1042' }] },
    });
  });

  it('waits in Check where two of one amount fit, each shown with its date', async () => {
    const older = await document('bill', 'A101', 9_900, {
      date: '2026-02-01',
      dueDate: '2026-03-03',
    });
    const newer = await document('bill', 'A102', 9_900, {
      date: '2026-03-01',
      dueDate: '2026-03-31',
    });
    await keep([{ date: '2026-03-12', amount: '-99.00', text: 'PENHALLOW CLAY' }]);
    const [line = ''] = await lineIds('check');
    const { fits, isCertain } = await view(line);
    expect(isCertain).toBe(false);
    expect(fits.map(({ id }) => id).sort()).toEqual([older, newer].sort());
    // Once one is taken, the other is clear.
    await keepMore('2026-04-02', '-99.00', 'PENHALLOW CLAY A102');
    const ready = await Promise.all((await lineIds('ready')).map(sheet));
    expect(ready.map(({ date, proposal }) => [date, targetsOf(proposal)]).sort()).toEqual([
      ['2026-03-12', [older]],
      ['2026-04-02', [newer]],
    ]);
  });

  it('may be several invoices at once, which its wording names', async () => {
    const first = await document('invoice', '1039', 21_200, {
      date: '2026-02-20',
      dueDate: '2026-03-20',
    });
    const second = await document('invoice', '1042', 42_800, {
      date: '2026-02-24',
      dueDate: '2026-03-22',
    });
    await document('invoice', '1050', 60_400, { date: '2026-03-21', dueDate: '2026-04-20' });
    await keep([
      { date: '2026-03-23', amount: '640.00', text: 'NETTLE THREAD LTD INV 1042 AND 1039' },
    ]);
    const [line = ''] = await lineIds('ready');
    expect(targetsOf((await sheet(line)).proposal)?.sort()).toEqual([first, second].sort());
    const { sets, nearMisses } = await view(line);
    expect(sets[0]).toMatchObject({ because: 'numbers', by: 0 });
    expect(nearMisses).toMatchObject([
      { number: '1050', differences: [{ kind: 'amount', by: 3_600, because: 'transposed' }] },
    ]);
    const swept = await scene.client.send<LinesDone>('POST', `${scene.path}/lines/pair-proposed`, {
      target: { lineIds: [line] },
      ...SEEN,
    });
    expect(swept.words).toEqual(
      expect.stringMatching(/with Invoices (1039, 1042|1042, 1039) of Nettle and Thread$/),
    );
    expect(await balance('1200')).toBe(60_400);
  });

  it('is paired by two people at once only by one of them', async () => {
    const bill = await document('bill', '1', 5_000, { date: '2026-03-01' });
    await keep([
      { date: '2026-03-20', amount: '-50.00', text: 'PENHALLOW CLAY A' },
      { date: '2026-03-21', amount: '-50.00', text: 'PENHALLOW CLAY B' },
    ]);
    const [one = '', other = ''] = [
      ...(await lineIds('check')),
      ...(await lineIds('ready')),
      ...(await lineIds()),
    ];
    const results = await Promise.allSettled([pair([one], [bill]), pair([other], [bill])]);
    expect(results.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(await documentOf(bill)).toMatchObject({ open: 0 });
    expect(await balance('2000')).toBe(0);
    expect(await proof()).toMatchObject({ unexplained: 0 });
  });
});

/** A later file with one more line. */
async function keepMore(date: string, amount: string, text: string): Promise<void> {
  await scene.books.keep('later.ofx', ofxFile([{ date, amount, text, id: `M${date}` }], '0.00'));
}

describe('a difference', () => {
  it('has to be said what it is', async () => {
    const invoice = await document('invoice', '1042', 10_000, { date: '2026-03-01' });
    await keep([{ date: '2026-03-20', amount: '98.60', text: 'NETTLE AND THREAD 1042' }]);
    const [line = ''] = await lineIds();
    await expect(pair([line], [invoice])).rejects.toThrow('−1.40 off');
    expect((await view(line)).nearMisses[0]?.differences).toMatchObject([{ because: 'fee' }]);
  });

  it('is coded with a reason, and the document is paid whole', async () => {
    const invoice = await document('invoice', '1042', 10_000, { date: '2026-03-01' });
    await keep([{ date: '2026-03-20', amount: '98.60', text: 'NETTLE AND THREAD 1042' }]);
    const [line = ''] = await lineIds();
    const accountId = await scene.books.accountId('6900');
    await pair([line], [invoice], {
      kind: 'code',
      accountId,
      taxCodeId: null,
      reason: 'fee kept back',
    });
    expect(await documentOf(invoice)).toMatchObject({ open: 0 });
    expect(await balance('6900')).toBe(140);
    expect(await balance('1200')).toBe(0);
    await undo();
    expect(await balance('6900')).toBe(0);
  });

  it('can stay open as part-paid, and be paid later', async () => {
    const invoice = await document('invoice', '1042', 10_000, { date: '2026-03-01' });
    await keep([
      { date: '2026-03-20', amount: '60.00', text: 'NETTLE AND THREAD FIRST' },
      { date: '2026-03-27', amount: '40.00', text: 'NETTLE AND THREAD SECOND' },
    ]);
    const [first = '', second = ''] = await lineIds();
    const byAmount = await sheet(first);
    const [sixty, forty] = byAmount.amount === 6_000 ? [first, second] : [second, first];
    await pair([sixty], [invoice], { kind: 'partPaid' });
    expect(await documentOf(invoice)).toMatchObject({ open: 4_000 });
    expect(targetsOf((await sheet(forty)).proposal)).toEqual([invoice]);
    await pair([forty], [invoice]);
    expect(await documentOf(invoice)).toMatchObject({ open: 0, payments: [{}, {}] });
  });

  it('that is too much stays as credit with the payee, to be used later', async () => {
    const invoice = await document('invoice', '1042', 10_000, { date: '2026-03-01' });
    await keep([{ date: '2026-03-20', amount: '130.00', text: 'NETTLE AND THREAD 1042' }]);
    const [line = ''] = await lineIds();
    await pair([line], [invoice], { kind: 'onAccount' });
    const { documents } = await scene.client.get<{ documents: ListedDocument[] }>(
      `${scene.path}/documents?side=receivables&state=open`,
    );
    expect(documents).toMatchObject([{ kind: 'credit', open: -3_000 }]);
    const next = await document('invoice', '1043', 10_000, { date: '2026-04-01' });
    await keepMore('2026-04-04', '70.00', 'NETTLE AND THREAD 1043');
    const [later = ''] = [
      ...(await lineIds('check')),
      ...(await lineIds()),
      ...(await lineIds('ready')),
    ];
    await pair([later], [next, documents[0]?.id ?? '']);
    expect(await balance('1200')).toBe(0);
    const refused = await scene.client.send<LinesDone>('POST', `${scene.path}/lines/reopen`, {
      target: { lineIds: [line] },
      ...SEEN,
    });
    expect(refused).toMatchObject({
      step: null,
      leftOut: [{ code: 'LINE_HELD', message: expect.stringContaining('Paired 1 line with 2') }],
    });
  });

  it('can be our own mistake: bill and entry are corrected in place, with trace', async () => {
    const bill = await document('bill', '2093', 31_420, { date: '2026-03-02' });
    const entryId = await cheque('001042', 4_805, '2026-03-01');
    await keep([
      { date: '2026-03-10', amount: '-48.50', text: 'CHEQUE 001042' },
      { date: '2026-03-20', amount: '-312.40', text: 'PENHALLOW CLAY 2093' },
    ]);
    const lines = await Promise.all((await lineIds()).map(sheet));
    const [clay, presented] = [-31_240, -4_850].map(
      (amount) => lines.find((line) => line.amount === amount)?.id ?? '',
    );
    await pair([clay ?? ''], [bill], { kind: 'correct', targetId: bill });
    expect(await documentOf(bill)).toMatchObject({ amount: -31_240, open: 0 });
    const [miss] = (await view(presented ?? '')).nearMisses;
    await pair([presented ?? ''], [miss?.id ?? ''], { kind: 'correct', targetId: miss?.id });
    expect(await scene.client.get<Entry>(`${scene.path}/entries/${entryId}`)).toMatchObject({
      isVoid: true,
      replacedBy: expect.any(String),
    });
    expect(await balance('5000')).toBe(4_850 + 26_033);
    expect(await proof()).toMatchObject({ unexplained: 0 });
    await undo();
    expect(await scene.client.get<Entry>(`${scene.path}/entries/${entryId}`)).toMatchObject({
      isVoid: false,
    });
    expect(await proof()).toMatchObject({ unexplained: 0, outstanding: -4_805 });
  });
});

describe('credit', () => {
  it('notes are set against what is open of their payee, and given back by undo', async () => {
    await keep([{ date: '2026-03-20', amount: '140.00', text: 'SOMEBODY' }]);
    const [line = ''] = await lineIds();
    const invoice = await document('invoice', '1042', 64_000, { date: '2026-02-24' });
    const { lines, ...typed } = await documentOf(invoice);
    const { side, payeeId } = typed;
    const credit = await scene.client.send<{ id: string }>('POST', `${scene.path}/documents`, {
      kind: 'creditNote',
      side,
      number: 'C7',
      payeeId,
      date: '2026-03-02',
      dueDate: null,
      note: null,
      lines: [{ ...lines[0], amount: 14_000 }],
    });
    expect(await balance('1200')).toBe(50_000);
    const documentIds = [invoice, credit.id];
    await scene.client.send('POST', `${scene.path}/documents/offset`, { documentIds });
    expect(await documentOf(invoice)).toMatchObject({ open: 50_000 });
    expect(await documentOf(credit.id)).toMatchObject({ open: 0 });
    // No money moved: nothing of that can come back.
    expect((await view(line)).fits).toEqual([]);
    await undo();
    expect(await documentOf(credit.id)).toMatchObject({ open: -14_000 });
    const bill = await document('bill', '9', 5_000, { date: '2026-03-02' });
    await expect(
      scene.client.send('POST', `${scene.path}/documents/offset`, { documentIds: [bill, invoice] }),
    ).rejects.toThrow('OFFSET_PAYEES');
  });
});

describe('a payment that came back', () => {
  it('reopens the invoice that it paid, and undoing that pays it again', async () => {
    const invoice = await document('invoice', '1098', 26_800, {
      date: '2026-02-06',
      dueDate: '2026-03-08',
    });
    await keep([
      { date: '2026-03-04', amount: '268.00', text: 'NETTLE AND THREAD 1098' },
      { date: '2026-03-12', amount: '-268.00', text: 'RETURNED UNPAID NETTLE AND THREAD 1098' },
    ]);
    const [paying = ''] = await lineIds('ready');
    await pair([paying], [invoice]);
    const [returned = ''] = await lineIds('ready');
    const proposal = (await sheet(returned)).proposal;
    expect(proposal).toMatchObject({ kind: 'pair', targets: [{ kind: 'returned' }] });
    await pair([returned], targetsOf(proposal) ?? []);
    expect(await documentOf(invoice)).toMatchObject({ open: 26_800 });
    expect(await balance('1200')).toBe(26_800);
    expect(await proof()).toMatchObject({ unexplained: 0 });
    await undo();
    expect(await documentOf(invoice)).toMatchObject({ open: 0 });
  });
});

describe('payments of several invoices', () => {
  it('come back as a whole, and each invoice is open again', async () => {
    const invoices = [
      await document('invoice', '1101', 51_240, { date: '2026-02-11' }),
      await document('invoice', '1102', 38_660, { date: '2026-02-18' }),
    ];
    await keep([
      { date: '2026-03-04', amount: '899.00', text: 'NETTLE AND THREAD 1101 1102' },
      { date: '2026-03-12', amount: '-899.00', text: 'RETURNED UNPAID NETTLE AND THREAD' },
    ]);
    const [paying = ''] = await lineIds('ready');
    await pair([paying], invoices);
    const [returned = ''] = [...(await lineIds('ready')), ...(await lineIds('check'))];
    const proposal = (await sheet(returned)).proposal;
    expect(proposal).toMatchObject({
      kind: 'pair',
      targets: [{ kind: 'returned' }, { kind: 'returned' }],
    });
    await pair([returned], targetsOf(proposal) ?? []);
    for (const id of invoices) {
      const { amount, open } = await documentOf(id);
      expect(open).toBe(amount);
    }
  });

  it('are not taken for open ones while nothing came back', async () => {
    const invoice = await document('invoice', '1101', 51_240, { date: '2026-02-11' });
    await keep([{ date: '2026-03-04', amount: '512.40', text: 'NETTLE AND THREAD 1101' }]);
    await pair(await lineIds('ready'), [invoice]);
    await keepMore('2026-04-02', '-521.40', 'NETTLE AND THREAD REFUND');
    const [refund = ''] = await lineIds();
    expect((await sheet(refund)).proposal).toBeNull();
    expect((await view(refund)).nearMisses).toEqual([]);
  });
});

describe('a closed period', () => {
  it('takes what pairs late lines on the first open day, and nothing that is typed into it', async () => {
    const bill = await document('bill', '2093', 31_240, { date: '2026-03-02' });
    const entryId = await cheque('7', 4_850, '2026-03-01');
    await keep([{ date: '2026-03-20', amount: '-312.40', text: 'PENHALLOW CLAY 2093' }]);
    const [line = ''] = await lineIds('ready');
    await scene.client.send('PATCH', scene.path, { lockDate: '2026-03-31' });
    expect((await pair([line], [bill])).done).toEqual([line]);
    const { items } = await scene.client.get<LedgerRows>(
      `${scene.path}/accounts/${await scene.books.accountId('2000')}/register`,
    );
    expect(items[0]).toMatchObject({ date: '2026-04-01', bankDate: '2026-03-20' });
    await scene.client.send('POST', `${scene.path}/entries/${entryId}/void`, {});
    expect(await scene.client.get(`${scene.path}/entries/${entryId}`)).toMatchObject({
      isVoid: true,
      date: '2026-03-01',
    });
    await expect(document('bill', '1', 100, { date: '2026-03-30' })).rejects.toThrow(
      'PERIOD_CLOSED',
    );
    expect(await documentOf(bill)).toMatchObject({ open: 0 });
  });
});

describe('a move between own accounts', () => {
  const file = (amount: string, text: string, date: string, account: string) =>
    ofxFile([{ date, amount, text, id: `T${date}${account}` }], amount, account);

  it('is one entry: its other half is in transit until it comes, and then paired', async () => {
    await scene.books.keep('out.ofx', file('-500.00', 'FT TO TAX POT 4480', '2026-03-05', '4471'));
    const [out = ''] = await lineIds('check');
    expect((await sheet(out)).proposal?.doubts).toMatchObject([{ kind: 'otherSideMissing' }]);
    await scene.post([out], (await codeOf(pot)) ?? '');
    expect(await scene.client.get(`${scene.path}/outstanding`)).toMatchObject({
      entries: [{ kind: 'transfer', bankAccountId: pot, amount: 50_000 }],
    });
    await scene.books.keep('in.ofx', file('500.00', 'FROM EVERYDAY 4471', '2026-03-07', '4480'), {
      bankAccountId: pot,
    });
    const [into = ''] = await lineIds('ready');
    const proposal = (await sheet(into)).proposal;
    expect(proposal).toMatchObject({ kind: 'pair', targets: [{ kind: 'transfer' }] });
    await pair([into], targetsOf(proposal) ?? []);
    expect(await scene.client.get(`${scene.path}/outstanding`)).toEqual({ entries: [] });
    const accountId = await scene.books.accountId('5000');
    const recoded = await scene.client.send<LinesDone>('POST', `${scene.path}/lines/recode`, {
      target: { lineIds: [out] },
      accountId,
      ...SEEN,
    });
    expect(recoded.leftOut).toMatchObject([{ code: 'ENTRY_PAIRED' }]);
    // Undoing the first half leaves the entry to the second.
    await scene.client.send('POST', `${scene.path}/lines/reopen`, {
      target: { lineIds: [out] },
      ...SEEN,
    });
    expect(await scene.client.get(`${scene.path}/outstanding`)).toMatchObject({
      entries: [{ kind: 'transfer', bankAccountId: scene.books.bankAccountId, amount: -50_000 }],
    });
  });

  it('is booked once though both halves are posted together', async () => {
    await scene.books.keep('out.ofx', file('-500.00', 'FT TO TAX POT 4480', '2026-03-05', '4471'));
    await scene.books.keep('in.ofx', file('500.00', 'FROM EVERYDAY 4471', '2026-03-07', '4480'), {
      bankAccountId: pot,
    });
    expect(await lanes()).toMatchObject({ ready: 2 });
    const seen = await scene.client.get<SweepSummary>(`${scene.path}/sweep`);
    // Both halves are one row, and count neither as money in nor as money out.
    expect(seen).toMatchObject({ count: 2, paidIn: 0, paidOut: 0, largest: [], look: [] });
    expect(seen.transfers).toMatchObject({
      count: 1,
      moved: -50_000,
      halves: [{ out: { bankAccountId: scene.books.bankAccountId }, in: { bankAccountId: pot } }],
    });
    await scene.client.send('POST', `${scene.path}/lines/sweep`, {
      scope: {},
      without: [],
      seenStep: seen.seenStep,
      seen: seen.seen,
    });
    expect(await lanes()).toMatchObject({ posted: 2 });
    expect(await scene.client.get(`${scene.path}/outstanding`)).toEqual({ entries: [] });
    expect(await balance((await codeOf(pot)) ?? '')).toBe(50_000);
    await undo();
    expect(await balance((await codeOf(pot)) ?? '')).toBe(0);
    expect(await lanes()).toMatchObject({ ready: 2 });
  });
});

async function codeOf(bankAccountId: string): Promise<string | undefined> {
  const { accounts, bankAccounts } = await scene.books.setup();
  const ledger = bankAccounts.find(({ id }) => id === bankAccountId)?.accountId;
  return accounts.find(({ id }) => id === ledger)?.code;
}

describe('what can’t be paired', () => {
  it('is refused with words', async () => {
    const bill = await document('bill', '2093', 31_240, { date: '2026-03-02' });
    const entryId = await cheque('7', 31_240, '2026-03-01');
    await keep([
      { date: '2026-03-20', amount: '-312.40', text: 'PENHALLOW CLAY 2093' },
      { date: '2026-03-21', amount: '-7.00', text: 'STAGWELL' },
    ]);
    const lines = await Promise.all(
      [...(await lineIds()), ...(await lineIds('ready')), ...(await lineIds('check'))].map(sheet),
    );
    const clay = lines.find(({ amount }) => amount === -31_240)?.id ?? '';
    const stagwell = lines.find(({ amount }) => amount === -700)?.id ?? '';
    await expect(pair([clay], [])).rejects.toThrow('PAIR_NOTHING');
    await pair([clay], [bill]);
    expect((await pair([clay], [bill])).leftOut).toMatchObject([{ code: 'LINE_DECIDED' }]);
    await expect(pair([stagwell], [bill])).rejects.toThrow('PAIR_TAKEN');
    await scene.client.send('POST', `${scene.path}/entries/${entryId}/void`, {});
    await expect(pair([stagwell], [entryId])).rejects.toThrow('PAIR_TAKEN');
    await expect(pair([stagwell], [bill], { kind: 'onAccount' })).rejects.toThrow('PAIR_TAKEN');
  });

  it('may cancel out: a bank’s error and its correction leave the open list together', async () => {
    await keep([
      { date: '2026-03-20', amount: '-80.00', text: 'DD SOMEBODY ELSE' },
      { date: '2026-03-22', amount: '80.00', text: 'CORRECTION DD' },
    ]);
    const ids = await lineIds();
    const [first = ''] = ids;
    expect((await view(first)).cancelling).toHaveLength(1);
    await pair(ids, []);
    expect(await lanes()).toMatchObject({ excluded: 2, blank: 0 });
    expect(await proof()).toMatchObject({ unexplained: 0, keptOut: 0, keptOutCount: 2 });
    await scene.client.send('POST', `${scene.path}/lines/reopen`, {
      target: { lineIds: [first] },
      ...SEEN,
    });
    expect(await lanes()).toMatchObject({ excluded: 0, blank: 2 });
  });
});
