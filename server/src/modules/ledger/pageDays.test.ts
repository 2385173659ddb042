import type { LedgerRow, LedgerRows } from '@zubrell/contract/ledger';
import { sumOf } from '@zubrell/core/money/minor';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let mo: Bookkeeper;
let freight: string;

/** Every row of a query, page by page. */
async function paged(query: string, limit: number): Promise<LedgerRow[]> {
  const rows: LedgerRow[] = [];
  let next: string | null = null;
  do {
    const cursor: string = next === null ? '' : `&cursor=${next}`;
    const page: LedgerRows = await scene.client.get<LedgerRows>(
      `${mo.path}/ledger-rows?${query}&limit=${limit}${cursor}`,
    );
    expect(page.items.length).toBeLessThanOrEqual(limit);
    rows.push(...page.items);
    next = page.next;
  } while (next !== null);
  return rows;
}

const whole = (query: string) =>
  scene.client.get<LedgerRows>(`${mo.path}/ledger-rows?${query}&limit=500`);

beforeEach(async () => {
  mo = bookkeeper(scene.client, scene.books.id);
  const everyday = scene.books.bankAccountId;
  freight = await mo.accountId('6010');
  await mo.opening(everyday, '2025-12-31', 100_000);
  const codes = ['6010', '6020', '6030', '6010'];
  // Several a day, so that pages end in the midst of days; and a day with nothing between them.
  for (const [at, day] of [5, 5, 5, 6, 6, 9, 9, 9, 9, 12].entries()) {
    const date = `2026-01-${String(day).padStart(2, '0')}`;
    const amount = (at % 3 === 2 ? 1 : -1) * (100 + at);
    const { id } = await mo.addLine(everyday, date, amount, `TIDEMARK ${at}`);
    await mo.post([id], mo.codingTo(await mo.accountId(codes[at % codes.length] ?? '6010')));
  }
  // What was merged stands where it was merged into, with what was there before.
  await scene.client.send('POST', `${mo.path}/accounts/${await mo.accountId('6030')}/merge`, {
    into: freight,
  });
  // What was taken back after its days were closed stands twice, on two days.
  const late = await mo.addLine(everyday, '2026-01-10', -700, 'ORRIN');
  const { step } = await mo.post([late.id], mo.codingTo(freight));
  await mo.settings({ lockDate: '2026-01-31' });
  await mo.undo(step);
});

describe('pages of the ledger', () => {
  it.each([
    ['of one account, the newest first', () => `accountId=${freight}&order=newest`],
    ['of one account as it happened', () => `accountId=${freight}&order=date`],
    [
      'of one account in a period',
      () => `accountId=${freight}&order=newest&from=2026-01-06&to=2026-01-09`,
    ],
    ['of all accounts as it happened', () => 'order=date'],
    ['of all accounts in a period', () => 'order=newest&from=2026-01-06'],
    ['account by account', () => 'order=account'],
    ['of costs, account by account, in a period', () => 'order=account&of=expense&from=2026-01-06'],
    ['of what is neither income nor cost', () => 'order=date&of=other'],
  ])('%s are what all rows are, cut', async (_, query) => {
    const all = await whole(query());
    expect(all.items.length).toBeGreaterThan(3);
    expect(all.next).toBeNull();
    expect(all.count).toBe(all.items.length);
    expect(all.debits).toBe(sumOf(all.items.filter(({ amount }) => amount > 0)));
    expect(all.credits).toBe(sumOf(all.items.filter(({ amount }) => amount < 0)));
    for (const limit of [1, 3, 4]) expect(await paged(query(), limit)).toEqual(all.items);
  });

  it('carry the balance from what was before the period', async () => {
    const rows = (await whole(`accountId=${freight}&order=date`)).items;
    let balance = 0;
    for (const row of rows) {
      balance += row.amount;
      expect(row.balance).toBe(balance);
    }
    const later = (await whole(`accountId=${freight}&order=date&from=2026-01-09`)).items;
    expect(later).toEqual(rows.filter(({ date }) => date >= '2026-01-09'));
    expect(rows.filter(({ turned }) => turned !== 0).map(({ date }) => date)).toEqual([
      '2026-02-01',
    ]);
  });

  it('are found the same where more is asked of them than days tell', async () => {
    const all = (await whole(`accountId=${freight}&order=date&from=2026-01-06`)).items;
    const found = await paged(`accountId=${freight}&order=date&from=2026-01-06&search=tidemark`, 2);
    const worded = all.filter(({ text }) => text.startsWith('TIDEMARK'));
    expect(worded.length).toBeGreaterThan(2);
    expect(found).toEqual(worded);
  });
});
