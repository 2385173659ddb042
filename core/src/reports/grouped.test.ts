import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { agedColumn, agedList, UNMATCHED } from './aged.ts';
import { cashReport } from './cashReport.ts';
import { groupedReport } from './grouped.ts';

const amounts = fc.integer({ min: -1_000_000, max: 1_000_000 });

describe('income and costs by payee, cost centre or job', () => {
  const options = { nameOf: (id: string) => `Job ${id}`, noneName: 'No job', compared: null };

  it('come largest first, what has none last, with the result and the total', () => {
    const { rows, total } = groupedReport(
      [
        { id: null, income: 9_000, costs: 0, other: 0 },
        { id: 'a', income: 500, costs: 200, other: 0 },
        { id: 'b', income: 0, costs: 900, other: 100 },
        { id: 'c', income: 0, costs: 0, other: 0 },
      ],
      options,
    );
    expect(rows.map(({ label, amounts: own }) => [label, ...own])).toEqual([
      ['Job b', 0, 900, -900, 100],
      ['Job a', 500, 200, 300, 0],
      ['No job', 9_000, 0, 9_000, 0],
    ]);
    expect(total.amounts).toEqual([9_500, 1_100, 8_400, 100]);
  });

  it('show what was there before, and what is no longer', () => {
    const compared = [{ id: 'a', income: 0, costs: 700, other: 0 }];
    const { rows } = groupedReport([{ id: 'b', income: 100, costs: 0, other: 0 }], {
      ...options,
      compared,
    });
    expect(rows.map(({ label, amounts: own }) => [label, ...own])).toEqual([
      ['Job b', 100, 0, 100, 0, 0, 100],
      ['Job a', 0, 0, 0, 0, -700, 700],
    ]);
  });
});

describe('an aged list', () => {
  const on = '2026-04-30';
  const document = (dueDate: string | null, open: number, payeeId = 'ana') => ({
    id: `${dueDate}`,
    payeeId,
    date: '2026-01-01',
    dueDate,
    open,
  });

  it.each([
    ['2026-05-01', 0],
    ['2026-04-30', 0],
    ['2026-04-29', 1],
    ['2026-03-31', 1],
    ['2026-03-30', 2],
    ['2026-03-01', 2],
    ['2026-01-31', 3],
    ['2026-01-29', 4],
    [null, 4],
  ])('has what was due on %s in column %i', (dueDate, column) => {
    expect(agedColumn({ date: '2026-01-01', dueDate }, on)).toBe(column);
  });

  it('shows what suppliers are owed as positive, and what no document explains by itself', () => {
    const { rows, total } = agedList(
      [document('2026-05-10', -4_850), document('2026-04-01', 600)],
      {
        on,
        balance: -4_300,
        sign: -1,
        payeeName: () => 'Tidemark Freight',
      },
    );
    expect(rows.map(({ key, amounts: own }) => [key, ...own])).toEqual([
      ['ana', 4_850, -600, 0, 0, 0, 4_250],
      [UNMATCHED, 0, 0, 0, 0, 0, 50],
    ]);
    expect(total.amounts.at(-1)).toBe(4_300);
  });

  it('comes to the balance of its account, whatever is open', () => {
    const any = fc.record({
      dueDate: fc.constantFrom('2026-05-10', '2026-04-01', '2025-01-01', null),
      open: amounts,
      payeeId: fc.constantFrom('ana', 'bo'),
    });
    fc.assert(
      fc.property(
        fc.array(any),
        amounts,
        fc.constantFrom(1 as const, -1 as const),
        (documents, balance, sign) => {
          const list = agedList(
            documents.map(({ dueDate, open, payeeId }) => document(dueDate, open, payeeId)),
            { on, balance, sign, payeeName: (id) => id },
          );
          expect(Number(list.total.amounts.at(-1))).toBe(sign * balance === 0 ? 0 : sign * balance);
        },
      ),
    );
  });
});

describe('cash', () => {
  const month = fc.record({ in: amounts, out: amounts, moved: amounts });
  const account = fc.record({
    accountId: fc.uuid(),
    opening: amounts,
    months: fc.array(month, { minLength: 3, maxLength: 3 }),
  });

  it('ends each month with the balance before, and what changed in it', () => {
    fc.assert(
      fc.property(fc.array(account), (accounts) => {
        const { sections, total } = cashReport(accounts, { width: 3, accountName: (id) => id });
        const change = sections[0].rows.find(({ kind }) => kind === 'sum')?.amounts ?? [];
        let balance = accounts.reduce((sum, { opening }) => sum + opening, 0);
        total.amounts.forEach((end, at) => {
          balance += change[at] ?? 0;
          expect(end).toBe(balance);
        });
      }),
    );
  });

  it('leaves moves between own accounts out of money in and out', () => {
    const none = { in: 0, out: 0, moved: 0 };
    const { sections } = cashReport(
      [
        { accountId: 'everyday', opening: 100, months: [{ in: 50, out: -20, moved: -30 }, none] },
        { accountId: 'savings', opening: 0, months: [{ ...none, moved: 30 }, none] },
      ],
      { width: 2, accountName: (id) => id },
    );
    expect(sections[0].rows.map(({ label, amounts: own }) => [label, ...own])).toEqual([
      ['Money in', 50, 0],
      ['Money out', -20, 0],
      ['Change', 30, 0],
    ]);
    expect(sections[1].rows.map(({ amounts: own }) => own)).toEqual([
      [100, 100],
      [30, 30],
    ]);
  });
});
