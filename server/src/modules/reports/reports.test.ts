import type { AccountTotals, FigureLegs } from '@zubrell/contract/reports';
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
  scene.client.get<FigureLegs>(
    `${mo.path}/reports/accounts/${freight}/legs?from=${from}&to=${to}${cursor && `&cursor=${cursor}`}`,
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
    const { items, count, amount, next } = await legs('2026-02-01', '2026-02-28');
    expect([count, amount, next]).toEqual([4, 650, null]);
    expect(items.map(({ text, lineId }) => [text, lineId !== null])).toEqual([
      ['Stamps from the till', false],
      ['PARCEL 3', true],
      ['PARCEL 2', true],
      ['PARCEL 1', true],
    ]);
    expect((await legs('2026-02-02', '2026-02-02')).amount).toBe(200);
    expect(await legs('2026-03-01', '2026-03-31')).toMatchObject({
      items: [],
      count: 0,
      amount: 0,
    });
  });

  it('is refused for a period that ends before it begins, or is far too long', async () => {
    await expect(totals('2026-03-01', '2026-02-01')).rejects.toThrow('REPORT_TURNED');
    await expect(legs('2026-03-01', '2026-02-01')).rejects.toThrow('REPORT_TURNED');
    await expect(totals('2016-01-01', '2026-02-01')).rejects.toThrow('REPORT_LONG');
  });
});
