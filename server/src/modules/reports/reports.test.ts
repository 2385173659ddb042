import type { FoundEntry, LedgerRows } from '@zubrell/contract/ledger';
import type {
  AccountTotals,
  AgedDocuments,
  CashFlow,
  ClearingItem,
  GroupedTotals,
} from '@zubrell/contract/reports';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let freight: string;
const everyday = () => scene.books.bankAccountId;

const totals = (from: string, to: string) =>
  scene.client.get<AccountTotals>(`${mo.path}/reports/totals?from=${from}&to=${to}`);
const of = async (accountId: string, from: string, to: string) =>
  (await totals(from, to)).totals.find((each) => each.accountId === accountId);
const legs = (from: string, to: string, cursor = '') =>
  scene.client.get<LedgerRows>(
    `${mo.path}/ledger-rows?accountId=${freight}&from=${from}&to=${to}${cursor && `&cursor=${cursor}`}`,
  );

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  freight = await mo.accountId('6010');
  await mo.opening(everyday(), '2025-12-31', 100_000);
});
const spend = async (date: string, amount: number, text: string) => {
  const { id } = await mo.addLine(everyday(), date, -amount, text);
  await mo.post([id], mo.codingTo(freight));
  return id;
};

describe('what reports are made of', () => {
  it('is what was before the period and what moved in each month, and what is still open', async () => {
    await spend('2026-01-20', 1_000, 'TIDEMARK ONE');
    await spend('2026-02-03', 4_850, 'TIDEMARK TWO');
    await spend('2026-03-31', 200, 'TIDEMARK THREE');
    await mo.addLine(everyday(), '2026-03-05', -700, 'ORRIN');
    await mo.addLine(everyday(), '2026-04-05', -900, 'LATER');
    const shown = await totals('2026-02-01', '2026-03-30');
    expect(shown.months).toEqual(['2026-02', '2026-03']);
    expect(shown.open).toEqual({ count: 1, amount: 700 });
    expect(await of(freight, '2026-02-01', '2026-03-30')).toMatchObject({
      opening: 1_000,
      months: [4_850, 0],
    });
    const sum = shown.totals.reduce(
      (total, { opening, months }) => total + opening + months.reduce((a, b) => a + b, 0),
      0,
    );
    expect(sum).toBe(0);
  });

  it('has what is late on the day on which it counts, and what was taken back as well', async () => {
    await spend('2026-02-03', 4_850, 'TIDEMARK TWO');
    const late = await mo.addLine(everyday(), '2026-02-20', -300, 'TIDEMARK LATE');
    await mo.settings({ lockDate: '2026-02-28' });
    await mo.post([late.id], mo.codingTo(freight));
    expect(await of(freight, '2026-02-01', '2026-03-31')).toMatchObject({ months: [4_850, 300] });
    const [one] = (await mo.decided()).filter(({ description }) => description === 'TIDEMARK TWO');
    await mo.reopen([one?.id ?? '']);
    expect(await of(freight, '2026-02-01', '2026-03-31')).toMatchObject({
      months: [4_850, 300 - 4_850],
    });
  });

  it('opens down to the bank’s wording, page by page, the newest first', async () => {
    for (let day = 1; day <= 3; day += 1)
      await spend(`2026-02-0${day}`, day * 100, `PARCEL ${day}`);
    await mo.enter({
      kind: 'journal',
      date: '2026-02-28',
      note: 'Stamps from the till',
      number: null,
      payeeId: null,
      legs: [
        { accountId: freight, amount: 50 },
        { accountId: await mo.accountId('3020'), amount: -50 },
      ],
    });
    const { items, count, debits, next } = await legs('2026-02-01', '2026-02-28');
    expect([count, debits, next]).toEqual([4, 650, null]);
    expect(items.map(({ text, lineId }) => [text, lineId !== null])).toEqual([
      ['Stamps from the till', false],
      ['PARCEL 3', true],
      ['PARCEL 2', true],
      ['PARCEL 1', true],
    ]);
    expect((await legs('2026-02-02', '2026-02-02')).debits).toBe(200);
    expect(await legs('2026-03-01', '2026-03-31')).toMatchObject({
      items: [],
      count: 0,
      debits: 0,
    });
  });

  it('is refused for a period that ends before it begins, or is far too long', async () => {
    await expect(totals('2026-03-01', '2026-02-01')).rejects.toThrow('REPORT_TURNED');
    await expect(legs('2026-03-01', '2026-02-01')).rejects.toThrow('REPORT_TURNED');
    await expect(totals('2016-01-01', '2026-02-01')).rejects.toThrow('REPORT_LONG');
  });
});

const get = <T>(place: string) => scene.client.get<T>(`${mo.path}${place}`);
const register = (accountId: string, query = '') =>
  get<LedgerRows>(`/accounts/${accountId}/register${query}`);

describe('a register', () => {
  it('is searched by what the bank said, by payee, number and amount, within days, with totals', async () => {
    const payee = await mo.payee('Penhallow Clay');
    const one = await mo.addLine(everyday(), '2026-02-03', -4_850, 'TIDEMARK FRT');
    await mo.post([one.id], mo.codingTo(freight));
    const two = await mo.addLine(everyday(), '2026-03-05', -700, 'CARD 0417');
    await mo.post([two.id], mo.codingTo(freight, payee.id));
    await mo.enter({
      kind: 'cheque',
      date: '2026-03-06',
      amount: 1_200,
      payeeId: payee.id,
      bankAccountId: everyday(),
      number: '001042',
      note: 'Crate of glaze',
      parts: [{ accountId: freight, taxCodeId: null, share: { kind: 'rest' }, tax: null }],
    });
    const amounts = async (query: string) =>
      (await register(freight, query)).items.map(({ amount }) => amount);
    expect(await amounts('')).toEqual([1_200, 700, 4_850]);
    expect(await amounts('?search=tidemark')).toEqual([4_850]);
    expect(await amounts('?search=penhallow')).toEqual([1_200, 700]);
    expect(await amounts('?search=glaze')).toEqual([1_200]);
    expect(await amounts('?search=001042')).toEqual([1_200]);
    expect(await amounts('?search=48.50')).toEqual([4_850]);
    expect(await amounts('?from=2026-03-01&to=2026-03-05')).toEqual([700]);
    const found = await register(freight, '?from=2026-03-01');
    expect(found).toMatchObject({ count: 2, debits: 1_900, credits: 0, next: null });
    // The balance is the account's, whatever is shown of it.
    expect(found.items.map(({ balance }) => balance)).toEqual([6_750, 5_550]);
    const totalOf = (await totals('2026-02-01', '2026-03-31')).totals.find(
      (each) => each.accountId === freight,
    );
    expect(found.items[0]?.balance).toBe(totalOf?.months.reduce((a, b) => a + b, 0));
  });

  it('keeps the reference, number and way of payment that the bank gave', async () => {
    const { id } = await scene.client.send<{ id: string }>(
      'POST',
      `${mo.path}/bank-accounts/${everyday()}/lines`,
      {
        date: '2026-03-09',
        amount: -5_800,
        description: 'ORRIN BELL',
        reference: 'RF18 5390 0754',
      },
    );
    expect(id).toBeUndefined();
    const [line] = await mo.open();
    await mo.post([line?.id ?? ''], mo.codingTo(freight));
    const [row] = (await register(freight, '?search=5390')).items;
    expect(row).toMatchObject({
      reference: 'RF18 5390 0754',
      text: 'ORRIN BELL',
      lineId: line?.id,
    });
    const entry = await get<{ reference: string }>(`/entries/${row?.entryId}`);
    expect(entry.reference).toBe('RF18 5390 0754');
    const { entries } = await get<{ entries: FoundEntry[] }>('/found-entries?search=5390');
    expect(entries).toMatchObject([
      { entryId: row?.entryId, reference: 'RF18 5390 0754', amount: -5_800 },
    ]);
    // Wordings are found among the lines.
    expect(await get('/found-entries?search=orrin')).toEqual({ entries: [] });
  });

  it('of all accounts comes account by account with balances, or as it happened without', async () => {
    await spend('2026-02-03', 4_850, 'TIDEMARK TWO');
    await spend('2026-02-04', 150, 'TIDEMARK THREE');
    const byAccount = await get<LedgerRows>('/ledger-rows?order=account&from=2026-02-01&limit=2');
    expect(byAccount.items.map(({ balance }) => balance)).toEqual([95_150, 95_000]);
    expect(byAccount).toMatchObject({ count: 4, debits: 5_000, credits: -5_000 });
    const rest = await get<LedgerRows>(
      `/ledger-rows?order=account&from=2026-02-01&limit=2&cursor=${byAccount.next}`,
    );
    expect(rest.items.map(({ accountId, balance }) => [accountId, balance])).toEqual([
      [freight, 4_850],
      [freight, 5_000],
    ]);
    const asHappened = await get<LedgerRows>('/ledger-rows?order=date&from=2026-02-01');
    expect(asHappened.items.map(({ amount }) => amount)).toEqual([-4_850, 4_850, -150, 150]);
    expect(asHappened.items[0]?.balance).toBeNull();
  });
});

describe('totals by payee, cost centre and job', () => {
  it('come to the profit of the period, merged payees as one', async () => {
    const clay = await mo.payee('Penhallow Clay');
    const other = await mo.payee('Penhallow Clay Ltd');
    const job = await scene.client.send<{ id: string }>('POST', `${mo.path}/cost-objects`, {
      kind: 'job',
      name: 'Harbour tiles',
    });
    const post = async (
      [amount, text]: [number, string],
      code: string,
      { payeeId = null, jobId = null }: { payeeId?: string | null; jobId?: string | null },
    ) => {
      const { id } = await mo.addLine(everyday(), '2026-03-03', amount, text);
      const coding = mo.codingTo(await mo.accountId(code), payeeId);
      await mo.post([id], { ...coding, parts: coding.parts.map((part) => ({ ...part, jobId })) });
    };
    await post([-1_000, 'ONE'], '5000', { payeeId: clay.id, jobId: job.id });
    await post([-500, 'TWO'], '5000', { payeeId: other.id });
    await post([9_000, 'THREE'], '4010', { jobId: job.id });
    await post([-80_000, 'FOUR'], '1500', { payeeId: clay.id });
    await scene.client.send('POST', `${mo.path}/payees/${other.id}/merge`, { into: clay.id });
    const grouped = async (by: string) =>
      (await get<GroupedTotals>(`/reports/grouped?from=2026-03-01&to=2026-03-31&by=${by}`)).totals;
    const byPayee = await grouped('payee');
    expect(byPayee).toHaveLength(2);
    expect(byPayee).toContainEqual({ id: clay.id, income: 0, costs: 1_500, other: 80_000 });
    expect(byPayee).toContainEqual({ id: null, income: 9_000, costs: 0, other: 0 });
    expect(await grouped('job')).toContainEqual({
      id: job.id,
      income: 9_000,
      costs: 1_000,
      other: 0,
    });
    const rows = await get<LedgerRows>(
      `/ledger-rows?payeeId=${clay.id}&of=expense&from=2026-03-01&to=2026-03-31`,
    );
    expect(rows.debits).toBe(1_500);
    const ofJob = await get<LedgerRows>(`/ledger-rows?jobId=${job.id}&of=income`);
    expect(ofJob.credits).toBe(-9_000);
    const ofNone = await get<LedgerRows>('/ledger-rows?payeeId=none&of=income');
    expect(ofNone.count).toBe(1);
  });
});

describe('what is owed on a day', () => {
  it('has bills as they stood then, paid or set off later, and comes to the account', async () => {
    const clay = await mo.payee('Penhallow Clay');
    const bill = (date: string, amount: number, kind = 'bill') =>
      mo.document({
        kind,
        side: 'payables',
        number: `${kind} ${date}`,
        payeeId: clay.id,
        date,
        dueDate: null,
        lines: [{ text: 'Clay', accountId: freight, taxCodeId: null, amount, tax: null }],
        note: null,
      });
    const aged = (on: string) => get<AgedDocuments>(`/reports/aged?side=payables&on=${on}`);
    const open = async (on: string) => {
      const { documents, balance } = await aged(on);
      expect(documents.reduce((sum, each) => sum + each.open, 0)).toBe(balance);
      return documents.map((each) => each.open);
    };
    const first = await bill('2026-02-01', 10_000);
    await bill('2026-02-10', 4_000);
    const credit = await bill('2026-03-01', 1_000, 'creditNote');
    const { id } = await mo.addLine(everyday(), '2026-03-10', -10_000, 'PENHALLOW');
    await mo.pair([id], [first.id]);
    const [, second] = (await aged('2026-02-28')).documents;
    await scene.client.send('POST', `${mo.path}/documents/offset`, {
      documentIds: [second?.id, credit.id],
    });
    expect(await open('2026-01-31')).toEqual([]);
    expect(await open('2026-02-28')).toEqual([-10_000, -4_000]);
    // The credit note is set off from its own day on.
    expect(await open('2026-03-09')).toEqual([-10_000, -3_000]);
    expect(await open('2026-03-31')).toEqual([-3_000]);
  });
});

describe('cash', () => {
  it('counts what came and went, and moves between own accounts apart', async () => {
    const { id: pot } = await mo.bankAccount('Tax pot', null);
    const { accountId = '' } =
      (await mo.setup()).bankAccounts.find((each) => each.id === pot) ?? {};
    await spend('2026-02-03', 4_850, 'TIDEMARK');
    const { id } = await mo.addLine(everyday(), '2026-02-09', -2_000, 'TO POT');
    await mo.post([id], mo.codingTo(accountId));
    const { accounts, months } = await get<CashFlow>('/reports/cash?from=2026-02-01&to=2026-03-31');
    expect(months).toEqual(['2026-02', '2026-03']);
    const none = { in: 0, out: 0, moved: 0 };
    const ofPot = accounts.find((each) => each.accountId === accountId);
    expect(ofPot).toMatchObject({ opening: 0, months: [{ ...none, moved: 2_000 }, none] });
    const ofEveryday = accounts.find((each) => each.accountId !== accountId);
    expect(ofEveryday).toMatchObject({
      opening: 100_000,
      months: [{ in: 0, out: -4_850, moved: -2_000 }, none],
    });
  });
});

describe('cash of several accounts', () => {
  it('finds moves whichever account moved most, and those that are taken back', async () => {
    const ids = new Map<string, string>();
    for (const name of ['Tax pot', 'Wages pot']) {
      const { id } = await mo.bankAccount(name, null);
      ids.set(name, id);
    }
    const accountOf = async (name: string) =>
      (await mo.setup()).bankAccounts.find((each) => each.id === ids.get(name))?.accountId ?? '';
    const move = async (from: string, to: string, date: string, amount: number) => {
      const { id } = await mo.addLine(from, date, -amount, 'TO POT');
      await mo.post([id], mo.codingTo(to));
    };
    const tax = await accountOf('Tax pot');
    const wages = await accountOf('Wages pot');
    const months = async () => {
      const { accounts } = await get<CashFlow>('/reports/cash?from=2026-02-01&to=2026-02-28');
      const of = (accountId: string) =>
        accounts.find((each) => each.accountId === accountId)?.months[0];
      return { tax: of(tax), wages: of(wages) };
    };
    await move(everyday(), tax, '2026-02-03', 5_000);
    await move(everyday(), wages, '2026-02-04', 3_000);
    // From now on more moved on a pot than anywhere else.
    const pot = ids.get('Tax pot') ?? '';
    for (const day of ['10', '11', '12', '13']) {
      const { id } = await mo.addLine(pot, `2026-02-${day}`, 100, `INTEREST ${day}`);
      await mo.post([id], mo.codingTo(await mo.accountId('4010')));
    }
    await move(pot, wages, '2026-02-20', 700);
    const { accounts } = await get<CashFlow>('/reports/cash?from=2026-02-01&to=2026-02-28');
    const codes = new Map((await mo.setup()).accounts.map(({ id, code }) => [id, code]));
    const shown = accounts.map(({ accountId }) => codes.get(accountId) ?? '');
    expect(shown).toHaveLength(3);
    expect(shown).toEqual([...shown].sort());
    expect(await months()).toEqual({
      tax: { in: 400, out: 0, moved: 4_300 },
      wages: { in: 0, out: 0, moved: 3_700 },
    });
    await mo.undo();
    expect(await months()).toEqual({
      tax: { in: 400, out: 0, moved: 5_000 },
      wages: { in: 0, out: 0, moved: 3_000 },
    });
  });
});

describe('suspense and transit on a day', () => {
  it('are what came since the account was last settled', async () => {
    const suspense = await mo.accountId('9000');
    const put = async (date: string, amount: number, text: string) => {
      const { id } = await mo.addLine(everyday(), date, amount, text);
      await mo.post([id], mo.codingTo(suspense));
    };
    await put('2026-02-03', -700, 'ONE');
    await put('2026-02-05', 700, 'BACK');
    await put('2026-03-02', -250, 'TWO');
    const items = async (on: string) =>
      (await get<{ items: ClearingItem[] }>(`/reports/clearing?on=${on}`)).items;
    expect((await items('2026-02-04')).map(({ amount }) => amount)).toEqual([700]);
    expect(await items('2026-02-28')).toEqual([]);
    expect(await items('2026-03-31')).toMatchObject([
      { amount: 250, text: 'TWO', who: 'Mo Oakes', accountId: suspense },
    ]);
  });
});
