import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, lastDayOf, monthOf, monthsBetween } from '../dates/calendarDate.ts';
import type { AccountType } from '../ledger/kinds.ts';
import { sumMinor } from '../money/minor.ts';
import type { AccountTotal, ReportAccount } from './accountTotals.ts';
import { balanceSheet } from './balanceSheet.ts';
import { profitAndLoss } from './profitAndLoss.ts';
import { trialBalance } from './trialBalance.ts';

const account = (code: string, name: string, type: AccountType): ReportAccount => ({
  id: code,
  code,
  name,
  type,
});
const accounts = [
  account('1010', 'Everyday', 'asset'),
  account('1500', 'Equipment', 'asset'),
  account('2000', 'Payables', 'liability'),
  account('3020', 'Owner’s drawings', 'equity'),
  account('4010', 'Sales of goods', 'income'),
  account('4040', 'Courses', 'income'),
  account('6010', 'Freight out', 'expense'),
  account('6040', 'Rent', 'expense'),
];

interface Leg {
  readonly date: string;
  readonly accountId: string;
  readonly amount: number;
}

/** What the books come to in a period, worked out leg by leg. */
function totalsOf(legs: readonly Leg[], from: string, to: string): AccountTotal[] {
  const months = monthsBetween(monthOf(from), monthOf(to));
  return accounts.map(({ id }) => {
    const own = legs.filter(({ accountId }) => accountId === id);
    const within = own.filter(({ date }) => date >= from && date <= to);
    return {
      accountId: id,
      opening: sumMinor(own.filter(({ date }) => date < from).map(({ amount }) => amount)),
      months: months.map((month) =>
        sumMinor(within.filter(({ date }) => monthOf(date) === month).map(({ amount }) => amount)),
      ),
    };
  });
}

const entry = (date: string, debit: string, credit: string, amount: number): Leg[] => [
  { date, accountId: debit, amount },
  { date, accountId: credit, amount: -amount },
];
/** A year of a small studio, as a bookkeeper would write it down. */
const studio = [
  ...entry('2025-11-20', '1010', '4010', 50_000),
  ...entry('2025-12-02', '6040', '1010', 20_000),
  ...entry('2026-01-05', '1010', '4010', 120_000),
  ...entry('2026-01-31', '6040', '1010', 20_000),
  ...entry('2026-02-03', '6010', '2000', 4_850),
  ...entry('2026-02-10', '1500', '1010', 80_000),
  ...entry('2026-02-28', '6040', '1010', 20_000),
  ...entry('2026-03-01', '3020', '1010', 10_000),
  ...entry('2026-03-02', '4010', '1010', 6_000),
];
const shown = (rows: readonly { label: string; amounts: readonly number[] }[]) =>
  rows.map(({ label, amounts }) => [label, ...amounts]);

describe('profit and loss', () => {
  it('shows income and costs by month with what is left, and leaves out accounts without figures', () => {
    const totals = totalsOf(studio, '2026-01-01', '2026-03-31');
    const { sections, result } = profitAndLoss(accounts, { totals, width: 3, compared: null });
    const [income, costs] = sections;
    // A refund to a customer lowers the income of its month.
    expect(shown(income.rows)).toEqual([
      ['4010 Sales of goods', 120_000, 0, -6_000, 114_000],
      ['Income', 120_000, 0, -6_000, 114_000],
    ]);
    expect(shown(costs.rows)).toEqual([
      ['6010 Freight out', 0, 4_850, 0, 4_850],
      ['6040 Rent', 20_000, 20_000, 0, 40_000],
      ['Costs', 20_000, 24_850, 0, 44_850],
    ]);
    expect(result.amounts).toEqual([100_000, -24_850, -6_000, 69_150]);
  });
});

describe('profit and loss compared with another period', () => {
  it('adds its total and the change, also for accounts that have figures only there', () => {
    const { sections, result } = profitAndLoss(accounts, {
      totals: totalsOf(studio, '2026-03-01', '2026-03-31'),
      width: 1,
      compared: totalsOf(studio, '2025-12-01', '2025-12-31'),
    });
    expect(shown(sections[0].rows)[0]).toEqual(['4010 Sales of goods', -6_000, -6_000, 0, -6_000]);
    expect(shown(sections[1].rows)[0]).toEqual(['6040 Rent', 0, 0, 20_000, -20_000]);
    expect(result.amounts).toEqual([-6_000, -6_000, -20_000, 14_000]);
  });
});

describe('the balance sheet', () => {
  it('has the results of this year and of earlier ones in equity, for each day', () => {
    const columns = [
      totalsOf(studio, '2026-01-01', '2026-03-31'),
      totalsOf(studio, '2025-01-01', '2025-12-31'),
    ];
    const { sections, against } = balanceSheet(accounts, columns);
    expect(sections.map(({ rows }) => shown(rows))).toEqual([
      [
        ['1010 Everyday', 14_000, 30_000],
        ['1500 Equipment', 80_000, 0],
        ['Assets', 94_000, 30_000],
      ],
      [
        ['2000 Payables', 4_850, 0],
        ['Liabilities', 4_850, 0],
      ],
      [
        ['3020 Owner’s drawings', -10_000, 0],
        ['Results of earlier years', 30_000, 0],
        ['Result of the year', 69_150, 30_000],
        ['Equity', 89_150, 30_000],
      ],
    ]);
    expect(against.amounts).toEqual([94_000, 30_000]);
  });
});

describe('the trial balance', () => {
  it('has each balance on its side, and the same on both', () => {
    const { rows, total } = trialBalance(accounts, totalsOf(studio, '2026-01-01', '2026-03-31'));
    expect(shown(rows)).toEqual([
      ['1010 Everyday', 14_000, 0],
      ['1500 Equipment', 80_000, 0],
      ['2000 Payables', 0, 4_850],
      ['3020 Owner’s drawings', 10_000, 0],
      ['4010 Sales of goods', 0, 164_000],
      ['6010 Freight out', 4_850, 0],
      ['6040 Rent', 60_000, 0],
    ]);
    expect(total.amounts).toEqual([168_850, 168_850]);
  });
});

describe('the reports of any books', () => {
  const ids = accounts.map(({ id }) => id);
  const legs = fc
    .array(
      fc.record({
        day: fc.nat(900),
        debit: fc.constantFrom(...ids),
        credit: fc.constantFrom(...ids),
        amount: fc.integer({ min: 1, max: 5_000_000 }),
      }),
      { maxLength: 60 },
    )
    .map((entries) =>
      entries.flatMap(({ day, debit, credit, amount }) =>
        entry(addDays('2024-06-01', day), debit, credit, amount),
      ),
    );
  const month = fc.constantFrom(...monthsBetween('2024-06', '2026-12'));

  it('agree with each other on every day', () => {
    fc.assert(
      fc.property(legs, month, (all, last) => {
        const to = lastDayOf(last);
        const from = `${to.slice(0, 4)}-01-01`;
        const totals = totalsOf(all, from, to);
        const { total } = trialBalance(accounts, totals);
        expect(total.amounts[0]).toBe(total.amounts[1]);
        const before = totalsOf(all, '2000-01-01', addDays(from, -1));
        const { sections, against } = balanceSheet(accounts, [totals, before]);
        const [assets, , equity] = sections;
        expect(assets.rows.at(-1)?.amounts).toEqual(against.amounts);
        // The profit of the year is what equity grew by, but for the owner's money.
        const { result } = profitAndLoss(accounts, {
          totals,
          width: monthsBetween(monthOf(from), last).length,
          compared: null,
        });
        const [now = 0, then = 0] = equity.rows.at(-1)?.amounts ?? [];
        const owner = totals
          .filter(({ accountId }) => accountId === '3020')
          .map(({ months }) => -sumMinor(months));
        expect(now - then).toBe((result.amounts.at(-1) ?? 0) + sumMinor(owner));
      }),
    );
  });
});
