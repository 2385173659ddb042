import type { BooksSetup, GivenTaxCode } from '@zubrell/contract/books';
import type { Made, StepDone } from '@zubrell/contract/common';
import type { LedgerRows } from '@zubrell/contract/ledger';
import type { TaxDraft, TaxLegs, TaxReturns } from '@zubrell/contract/tax';
import { taxDue, taxUnexplained } from '@zubrell/core/tax/taxReturn';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { joinedAs } from '../../testing/joinedAs.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let codes: BooksSetup['taxCodes'];
const MARCH = { from: '2026-03-01', to: '2026-03-31' };
const FEBRUARY = { from: '2026-02-01', to: '2026-02-28' };

const send = <T>(place: string, body: object, method: 'POST' | 'PUT' = 'POST') =>
  scene.client.send<T>(method, `${mo.path}${place}`, body);
const codeNamed = (name: string) => codes.find((code) => code.name === name)?.id ?? '';
const returns = () => scene.client.get<TaxReturns>(`${mo.path}/tax-returns`);
const draft = ({ from, to }: { from: string; to: string }) =>
  scene.client.get<TaxDraft>(`${mo.path}/tax-returns/next?from=${from}&to=${to}`);
const file = async (period: { from: string; to: string }, more: object = {}) => {
  const { rows } = await draft(period);
  const how = { movesTax: false, locks: false, note: null, ...more };
  return send<Made>('/tax-returns', { ...period, seenDue: taxDue(rows).due, ...how });
};
const legs = (code: string, period: { from: string; to: string }, returnId?: string) =>
  scene.client.get<TaxLegs>(
    `${mo.path}/tax-returns/codes/${codeNamed(code)}/legs?side=input&from=${period.from}&to=${period.to}${
      returnId ? `&returnId=${returnId}` : ''
    }`,
  );
/** What a return says of a code: side, net, tax, and what of it is late. */
const shown = ({ rows }: TaxDraft) =>
  rows.map(({ taxCodeId, side, net, tax, late }) => {
    const name = codes.find(({ id }) => id === taxCodeId)?.name;
    return [name, side, net, tax, late.net, late.tax];
  });
const off = async (period: { from: string; to: string }) =>
  taxUnexplained((await draft(period)).agreement);
const book = async (date: string, amount: number, account: string, code: string) => {
  const { id } = await mo.addLine(
    scene.books.bankAccountId,
    date,
    amount,
    `${account} ${date} ${amount}`,
  );
  await mo.post([id], mo.codingTo(await mo.accountId(account), null, codeNamed(code)));
  return id;
};
const given = (change: Partial<GivenTaxCode> = {}): GivenTaxCode => ({
  name: '19 %',
  kind: 'standard',
  use: 'both',
  rates: [{ fromDate: null, rate: 1_900 }],
  inputAccountId: codes[0]?.inputAccountId ?? null,
  outputAccountId: codes[0]?.outputAccountId ?? null,
  recoverable: 10_000,
  boxes: { outputNet: 'A', outputTax: 'B', inputNet: 'C', inputTax: 'D' },
  isOn: true,
  ...change,
});

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  await mo.opening(scene.books.bankAccountId, '2025-12-31', 1_000_000);
  codes = (await mo.setup()).taxCodes;
});

describe('a tax code', () => {
  it('is made, changed with a rate from a day on, and every posting takes the rate of its day', async () => {
    const { id, step } = await send<Made>('/tax-codes', given());
    const dated = given({
      rates: [
        { fromDate: '2026-03-01', rate: 1_600 },
        { fromDate: null, rate: 1_900 },
      ],
    });
    const changed = await send<StepDone>(`/tax-codes/${id}`, dated, 'PUT');
    codes = (await mo.setup()).taxCodes;
    expect(codes.find((code) => code.id === id)?.rates).toEqual([
      { fromDate: null, rate: 1_900 },
      { fromDate: '2026-03-01', rate: 1_600 },
    ]);
    await book('2026-02-28', -11_900, '6010', '19 %');
    await book('2026-03-01', -11_600, '6010', '19 %');
    expect(await mo.balance('2210')).toBe(1_900 + 1_600);
    await expect(mo.undo(step)).rejects.toThrow('STEP');
    await mo.undo(changed.step);
    await book('2026-03-02', -11_900, '6010', '19 %');
    expect(await mo.balance('2210')).toBe(1_900 + 1_600 + 1_900);
  });

  it('goes with the undo of making it, and its name is free again', async () => {
    const { step } = await send<Made>('/tax-codes', given());
    await mo.undo(step);
    expect((await mo.setup()).taxCodes).toHaveLength(codes.length);
    await send<Made>('/tax-codes', given());
    await expect(mo.redo(step)).rejects.toThrow('STEP');
  });

  it('is refused with the reason', async () => {
    const refused = (change: Partial<GivenTaxCode>) =>
      expect(send('/tax-codes', given(change))).rejects;
    await refused({ name: '20 %' }).toThrow('TAX_CODE_TAKEN');
    await refused({ rates: [] }).toThrow('TAX_RATE_NEEDED');
    await refused({ kind: 'zero' }).toThrow('TAX_RATE_KIND');
    const twice = { fromDate: '2026-03-01', rate: 100 };
    await refused({ rates: [twice, twice] }).toThrow('TAX_RATE_TWICE');
    await refused({ inputAccountId: await mo.accountId('4010') }).toThrow('TAX_ACCOUNT_TYPE');
    await refused({ inputAccountId: await mo.accountId('1010') }).toThrow('TAX_ACCOUNT_TYPE');
  });

  it('that is switched off, or for the other side, is not posted with', async () => {
    const { id } = await send<Made>('/tax-codes', given({ use: 'sales' }));
    codes = (await mo.setup()).taxCodes;
    await expect(book('2026-03-01', -100, '6010', '19 %')).rejects.toThrow('TAX_OTHER_SIDE');
    await send(`/tax-codes/${id}`, given({ isOn: false }), 'PUT');
    await expect(book('2026-03-02', -100, '6010', '19 %')).rejects.toThrow('TAX_CODE_OFF');
  });

  it('takes no tax on wages, until the account says so, and tax on a deposit that the books mark', async () => {
    await expect(book('2026-03-01', -100, '6100', '20 %')).rejects.toThrow('TAX_NOT_HERE');
    await expect(book('2026-03-02', -100, '1300', '20 %')).rejects.toThrow('TAX_NOT_HERE');
    const deposits = await mo.accountId('1300');
    const { step } = await scene.client.send<StepDone>('PATCH', `${mo.path}/accounts/${deposits}`, {
      tax: 'byCode',
    });
    await book('2026-03-03', -12_000, '1300', '20 %');
    expect(await mo.balance('2210')).toBe(2_000);
    await mo.undo(step);
    await expect(book('2026-03-04', -100, '1300', '20 %')).rejects.toThrow('TAX_NOT_HERE');
  });
});

describe('a tax return', () => {
  it('sums what was posted by code and side, and agrees with the tax accounts', async () => {
    await book('2026-03-03', 24_000, '4010', '20 %');
    await book('2026-03-04', -12_000, '6010', '20 %');
    await book('2026-03-05', 1_200, '6010', '20 %');
    await book('2026-03-06', -10_000, '6130', 'Reverse charge 20 %');
    await book('2026-03-07', 5_000, '4020', 'Exempt');
    await book('2026-03-08', -700, '6010', 'Outside');
    await mo.addLine(scene.books.bankAccountId, '2026-03-09', -300, 'OPEN');
    const next = await draft(MARCH);
    expect(shown(next)).toEqual([
      ['20 %', 'output', 20_000, 4_000, 0, 0],
      ['20 %', 'input', 9_000, 1_800, 0, 0],
      ['Exempt', 'output', 5_000, 0, 0, 0],
      ['Reverse charge 20 %', 'output', 0, 2_000, 0, 0],
      ['Reverse charge 20 %', 'input', 10_000, 2_000, 0, 0],
    ]);
    expect(taxDue(next.rows)).toEqual({ output: 6_000, input: 3_800, due: 2_200 });
    expect(next.agreement).toMatchObject({ balance: -2_200, own: -2_200, earlier: 0, others: 0 });
    expect(next.open).toEqual({ count: 1, amount: 300 });
    const { items } = await legs('20 %', MARCH);
    expect(items.map(({ date, net, tax }) => [date, net, tax])).toEqual([
      ['2026-03-05', -1_000, 0],
      ['2026-03-05', 0, -200],
      ['2026-03-04', 10_000, 0],
      ['2026-03-04', 0, 2_000],
    ]);
  });

  it('keeps what was filed, and brings what is late or changed since into the next one', async () => {
    const kept = await book('2026-02-03', -12_000, '6010', '20 %');
    await book('2026-02-04', 6_000, '4010', '20 %');
    const { id } = await file(FEBRUARY);
    expect((await draft(MARCH)).rows).toEqual([]);
    // A line of February that comes late, one of it taken back, and one of March.
    await book('2026-02-20', -2_400, '6010', '20 %');
    await mo.reopen([kept]);
    await book('2026-03-02', -3_600, '6010', '20 %');
    expect(shown(await draft(MARCH))).toEqual([
      ['20 %', 'input', 3_000 + 2_000 - 10_000, 600 + 400 - 2_000, 2_000 - 10_000, 400 - 2_000],
    ]);
    const { items } = await legs('20 %', MARCH);
    expect(items.filter(({ isTakenBack }) => isTakenBack).map(({ net, tax }) => net + tax)).toEqual(
      [-10_000, -2_000],
    );
    const [february] = (await returns()).returns;
    expect(taxDue(february?.figures.rows ?? [])).toMatchObject({ due: 1_000 - 2_000 });
    expect((await legs('20 %', FEBRUARY, id)).items.map(({ net, tax }) => net + tax)).toEqual([
      10_000, 2_000,
    ]);
    expect(await off(MARCH)).toBe(0);
    // Posting it again brings it back, and nothing is reported twice.
    await mo.post([kept], mo.codingTo(await mo.accountId('6010'), null, codeNamed('20 %')));
    await file(MARCH);
    expect((await draft({ from: '2026-04-01', to: '2026-04-30' })).rows).toEqual([]);
    expect(await off({ from: '2026-04-01', to: '2026-04-30' })).toBe(0);
  });

  it('counts what came late into a locked month in the period in which it counts, as late', async () => {
    await book('2026-02-04', 6_000, '4010', '20 %');
    await file(FEBRUARY, { locks: true });
    expect((await mo.setup()).books.lockDate).toBe(FEBRUARY.to);
    await book('2026-02-20', -2_400, '6010', '20 %');
    expect(shown(await draft(MARCH))).toEqual([['20 %', 'input', 2_000, 400, 2_000, 400]]);
    expect(await off(MARCH)).toBe(0);
  });

  it('moves the tax to what is owed, so that the payment settles it', async () => {
    await book('2026-03-03', 24_000, '4010', '20 %');
    await book('2026-03-04', -12_000, '6010', '20 %');
    const { step } = await file(MARCH, { movesTax: true, locks: true });
    expect(await mo.balance('2210')).toBe(0);
    expect(await mo.balance('2220')).toBe(0);
    expect(await mo.balance('2200')).toBe(-2_000);
    const april = { from: '2026-04-01', to: '2026-04-30' };
    expect((await draft(april)).agreement).toMatchObject({
      balance: 0,
      earlier: -2_000,
      others: 2_000,
    });
    // The journal itself is nothing to be reported.
    expect((await draft(april)).rows).toEqual([]);
    await mo.undo(step);
    expect(await mo.balance('2200')).toBe(0);
    const { books } = await mo.setup();
    expect([books.lockDate, books.taxReportedTo]).toEqual([null, null]);
    const again = await draft(MARCH);
    expect(taxDue(again.rows).due).toBe(2_000);
    // The journal is gone from its own day, not turned on a later one.
    expect(again.agreement).toMatchObject({ balance: -2_000, others: 0 });
    await mo.redo(step);
    expect(await mo.balance('2200')).toBe(-2_000);
    expect((await draft(april)).rows).toEqual([]);
    const owed = await mo.accountId('2200');
    const { items } = await scene.client.get<LedgerRows>(`${mo.path}/accounts/${owed}/register`);
    expect(items.map(({ date, amount, turned }) => [date, amount, turned])).toEqual([
      [MARCH.to, -2_000, 0],
    ]);
  });

  it('begins with the quarter of the first entry with tax, by the bank’s day where that came late', async () => {
    await book('2026-04-20', -1_200, '6010', '20 %');
    await book('2026-01-20', -1_200, '6010', 'Outside');
    expect((await returns()).next).toEqual({ from: '2026-04-01', to: '2026-06-30' });
    await mo.settings({ lockDate: MARCH.to });
    const late = await book('2026-03-20', -2_400, '6010', '20 %');
    expect((await returns()).next).toEqual({ from: '2026-01-01', to: MARCH.to });
    await mo.reopen([late]);
    expect((await returns()).next).toEqual({ from: '2026-04-01', to: '2026-06-30' });
  });

  it('follows the one before, which can’t be undone under it', async () => {
    await book('2026-02-04', 6_000, '4010', '20 %');
    const first = await file(FEBRUARY);
    expect((await returns()).next).toEqual(MARCH);
    await expect(draft({ from: '2026-03-02', to: MARCH.to })).rejects.toThrow('TAX_RETURN_GAP');
    await file(MARCH);
    await expect(mo.undo(first.step)).rejects.toThrow('STEP');
    await mo.undo(first.step, true);
    expect((await returns()).returns).toEqual([]);
  });

  it('leaves out what was reported elsewhere, and counts what comes to it afterwards as late', async () => {
    await book('2026-02-04', 6_000, '4010', '20 %');
    await mo.reportedElsewhere(FEBRUARY.to);
    expect((await draft(MARCH)).rows).toEqual([]);
    await book('2026-02-05', 1_200, '4010', '20 %');
    expect(shown(await draft(MARCH))).toEqual([['20 %', 'output', 1_000, 200, 1_000, 200]]);
    expect(await off(MARCH)).toBe(0);
    await expect(mo.reportedElsewhere('2026-03-31')).rejects.toThrow('TAX_RETURN_ORDER');
  });

  it('is refused before its period is over, when it changed since, and to roles without leave', async () => {
    await book('2026-03-03', 24_000, '4010', '20 %');
    await expect(file({ from: '2026-03-01', to: '2099-03-31' })).rejects.toThrow(
      'TAX_RETURN_EARLY',
    );
    const wanted = { ...MARCH, movesTax: false, locks: false, note: null };
    await expect(send('/tax-returns', { ...wanted, seenDue: 1 })).rejects.toThrow(
      'TAX_RETURN_CHANGED',
    );
    const { leaves } = (await mo.setup()).books;
    await mo.settings({ leaves: { ...leaves, close: [] } });
    const rowan = await joinedAs(scene, 'Rowan Fennick', 'bookkeeper');
    await expect(
      rowan.send('POST', `${mo.path}/tax-returns`, { ...wanted, seenDue: 4_000 }),
    ).rejects.toThrow('LEAVE_NEEDED');
  });

  it('shows what stands on the tax accounts without a tax code', async () => {
    await book('2026-03-03', 24_000, '4010', '20 %');
    await mo.enter({
      kind: 'journal',
      date: '2026-03-31',
      note: null,
      number: null,
      payeeId: null,
      legs: [
        { accountId: await mo.accountId('2220'), amount: 500 },
        { accountId: await mo.accountId('6900'), amount: -500 },
      ],
    });
    const { agreement } = await draft(MARCH);
    expect(agreement).toMatchObject({ balance: -3_500, own: -4_000, others: 500 });
  });

  it('names the tax accounts in the order of their codes', async () => {
    await book('2026-03-03', 24_000, '4010', '20 %');
    await book('2026-03-04', -2_400, '6010', '20 %');
    const { accounts } = (await draft(MARCH)).agreement;
    expect(accounts).toEqual([
      { accountId: await mo.accountId('2210'), balance: 400 },
      { accountId: await mo.accountId('2220'), balance: -4_000 },
    ]);
  });
});
