import type { AccountTotals } from '@zubrell/contract/reports';
import type { TaxDraft } from '@zubrell/contract/tax';
import { sql } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { type Bookkeeper, bookkeeper } from '../testing/bookkeeper.ts';
import { setScene } from '../testing/scene.ts';
import { firstOpenMonth } from './closedTotals.ts';
import { inBooks, rowsOf } from './database.ts';

const scene = setScene();
let mo: Bookkeeper;
let everyday: string;
beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  everyday = scene.books.bankAccountId;
  await mo.opening(everyday, '2025-12-31', 100_000);
  const tax = await scene.books.taxCodeId('20 %');
  for (const month of ['01', '02', '03']) {
    const { id } = await mo.addLine(everyday, `2026-${month}-15`, -1_200, `CLAY ${month}`);
    await mo.post([id], mo.codingTo(await mo.accountId('5000'), null, tax));
  }
});

const within = <T>(work: Parameters<typeof inBooks<T>>[2]) =>
  inBooks(scene.harness.database, scene.books.id, work);
const CountRow = z.object({ count: z.int() });
const summed = () =>
  within((tx) => rowsOf(tx, CountRow, sql`select count(*)::int as count from closed_totals`));
const cut = (before: string) => within((tx) => firstOpenMonth(tx, scene.books.id, before));
const totals = (from: string, to: string) =>
  scene.client.get<AccountTotals>(`${mo.path}/reports/totals?from=${from}&to=${to}`);
const taxOf = (from: string, to: string) =>
  scene.client.get<TaxDraft>(`${mo.path}/tax-returns/next?from=${from}&to=${to}`);
/** Reports that take closed months whole, in part, and not at all. */
const figures = async () => {
  const asked = [
    totals('2026-01-01', '2026-03-31'),
    totals('2026-01-01', '2026-02-15'),
    totals('2026-01-20', '2026-03-31'),
    totals('2026-03-31', '2026-03-31'),
    taxOf('2026-02-01', '2026-03-31'),
    taxOf('2026-03-01', '2026-03-31'),
  ];
  const [a, b, c, d, ...taxes] = await Promise.all(asked);
  const inOrder = [a, b, c, d].map((each) => ({
    ...each,
    totals: [...((each as AccountTotals).totals ?? [])].sort((one, other) =>
      one.accountId < other.accountId ? -1 : 1,
    ),
  }));
  return [...inOrder, ...taxes];
};

describe('the totals of closed months', () => {
  it('give the figures that the entries give, before and after closing and opening again', async () => {
    const before = await figures();
    expect(await summed()).toEqual([{ count: 0 }]);
    expect(await cut('2026-03-31')).toBe('1900-01-01');
    const { step } = await mo.settings({ lockDate: '2026-02-10' });
    // February is closed in part only, so January and December are.
    expect(await cut('2026-03-31')).toBe('2026-02-01');
    expect(await summed()).not.toEqual([{ count: 0 }]);
    expect(await figures()).toEqual(before);
    await mo.settings({ lockDate: '2026-02-28' });
    expect(await cut('2026-03-31')).toBe('2026-03-01');
    expect(await cut('2026-01-31')).toBe('2026-01-01');
    expect(await figures()).toEqual(before);
    await mo.settings({ lockDate: '2026-01-31' });
    expect(await cut('2026-03-31')).toBe('2026-02-01');
    expect(await figures()).toEqual(before);
    await mo.settings({ lockDate: null });
    expect(await summed()).toEqual([{ count: 0 }]);
    expect(await figures()).toEqual(before);
    await mo.undo(step, true);
    expect(await figures()).toEqual(before);
  });

  it('take what comes late where it counts, and accounts as they were put together since', async () => {
    await mo.settings({ lockDate: '2026-01-31' });
    const late = await mo.addLine(everyday, '2026-01-20', -600, 'LATE');
    await mo.post([late.id], mo.codingTo(await mo.accountId('5000')));
    await mo.settings({ lockDate: '2026-02-28' });
    const { months = [] } =
      (await totals('2026-01-01', '2026-03-31')).totals.find(({ accountId }) => accountId) ?? {};
    expect(months).toHaveLength(3);
    const clay = await mo.accountId('5000');
    const of = async (id: string) =>
      (await totals('2026-01-01', '2026-03-31')).totals.find(({ accountId }) => accountId === id)
        ?.months;
    expect(await of(clay)).toEqual([1_000, 1_600, 1_000]);
    const freight = await mo.accountId('6010');
    const merged = await scene.client.send<{ step: number }>(
      'POST',
      `${mo.path}/accounts/${clay}/merge`,
      { into: freight },
    );
    expect(await of(freight)).toEqual([1_000, 1_600, 1_000]);
    await mo.undo(merged.step);
    expect(await of(clay)).toEqual([1_000, 1_600, 1_000]);
  });
});
