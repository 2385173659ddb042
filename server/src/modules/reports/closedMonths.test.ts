import type { AccountTotals, GroupedTotals } from '@zubrell/contract/reports';
import type { TaxDraft } from '@zubrell/contract/tax';
import type { PayeeId } from '@zubrell/core/ids';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

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

const totals = (from: string, to: string) =>
  scene.client.get<AccountTotals>(`${mo.path}/reports/totals?from=${from}&to=${to}`);
const taxOf = (from: string, to: string) =>
  scene.client.get<TaxDraft>(`${mo.path}/tax-returns/next?from=${from}&to=${to}`);
/** Reports of closed months whole, in part, and not at all. */
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

describe('reports of closed months', () => {
  it('give the same figures before and after closing and opening again', async () => {
    const before = await figures();
    const { step } = await mo.settings({ lockDate: '2026-02-10' });
    expect(await figures()).toEqual(before);
    await mo.settings({ lockDate: '2026-02-28' });
    expect(await figures()).toEqual(before);
    await mo.settings({ lockDate: '2026-01-31' });
    expect(await figures()).toEqual(before);
    await mo.settings({ lockDate: null });
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

  it('take off by payee what was undone, and add what came late or was turned on its later day', async () => {
    const clay = await mo.payee('Penhallow Clay');
    const coding = mo.codingTo(await mo.accountId('5000'), clay.id as PayeeId);
    const post = async (date: string, amount: number) => {
      const { id } = await mo.addLine(everyday, date, amount, `CLAY OF ${date}`);
      return (await mo.post([id], coding)).step;
    };
    const costs = async (from: string, to: string) =>
      (
        await scene.client.get<GroupedTotals>(
          `${mo.path}/reports/grouped?from=${from}&to=${to}&by=payee`,
        )
      ).totals.find(({ id }) => id === clay.id)?.costs ?? 0;
    const january = () => costs('2026-01-01', '2026-01-31');
    const february = () => costs('2026-02-01', '2026-02-28');
    await post('2026-01-08', -500);
    const gone = await post('2026-01-09', -70);
    const turned = await post('2026-01-10', -6_000);
    expect(await january()).toBe(6_570);
    await mo.undo(gone);
    expect(await january()).toBe(6_500);
    await mo.settings({ lockDate: '2026-01-31' });
    await post('2026-01-20', -400);
    expect([await january(), await february()]).toEqual([6_500, 400]);
    await mo.undo(turned);
    expect([await january(), await february()]).toEqual([6_500, 400 - 6_000]);
    expect(await costs('2026-01-10', '2026-02-28')).toBe(400);
    await mo.redo(turned);
    expect([await january(), await february()]).toEqual([6_500, 400]);
  });
});
