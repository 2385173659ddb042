import { screen, waitFor, within } from '@testing-library/react';
import type { AccountTotals } from '@zubrell/contract/reports';
import { describe, expect, it, vi } from 'vitest';
import { saveText } from '../../app/saveText.ts';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testLedgerRow } from '../../testing/testLedgerRow.ts';
import { BalanceSheetScreen } from './BalanceSheetScreen.tsx';
import { ProfitScreen } from './ProfitScreen.tsx';
import { comparedPeriod, usualPeriod } from './reportPeriod.ts';
import { TrialBalanceScreen } from './TrialBalanceScreen.tsx';

vi.mock('../../app/saveText.ts');
vi.mock('../../ui/Chart.tsx', () => ({
  Chart: ({ label }: { readonly label: string }) => <p>{label}</p>,
}));

const MONTHS = ['2025-10', '2025-11', '2025-12', '2026-01', '2026-02', '2026-03'];
const total = (accountId: string, opening: number, last: number) => ({
  accountId,
  opening,
  months: [0, 0, 0, 0, 0, last],
});
const totals = (more: Partial<AccountTotals> = {}): AccountTotals => ({
  from: '2025-10-01',
  to: '2026-03-31',
  months: MONTHS,
  totals: [total('4010', -1_000, -64_000), total('6010', 0, 4_850), total('1500', 1_000, 59_150)],
  open: { count: 2, amount: 1_200 },
  ...more,
});
const lastYear = totals({ totals: [total('4010', 0, -60_000)], open: { count: 0, amount: 0 } });
const answers = {
  'GET /reports/totals': (query: URLSearchParams) =>
    (query.get('to') ?? '') < '2026' ? lastYear : totals(),
  'GET /ledger-rows': {
    items: [testLedgerRow()],
    next: null,
    count: 1,
    debits: 4_850,
    credits: 0,
  },
};
/** The figures of a row; a sum is called like the heading above it. */
const cells = (row: string) =>
  within(screen.getAllByRole('row', { name: new RegExp(`^${row}`) }).at(-1) ?? document.body)
    .getAllByRole('cell')
    .map(({ textContent }) => textContent);

describe('profit and loss', () => {
  it('shows months, total, last year and the change, and what is still open', async () => {
    renderInBooks(<ProfitScreen />, { answers });
    expect(await screen.findByText(/Result 591.50, down 8.50 on last year/)).toBeDefined();
    expect(cells('4010').slice(-4)).toEqual(['640.00', '640.00', '600.00', '40.00']);
    expect(cells('6010').slice(-4)).toEqual(['48.50', '48.50', '—', '48.50']);
    expect(cells('Result').slice(-4)).toEqual(['591.50', '591.50', '600.00', '−8.50']);
    expect(screen.queryByText('6020 Market and stall fees')).toBeNull();
    expect(screen.getByText('2 open lines, 12.00')).toBeDefined();
  });

  it('opens a figure down to the bank’s wording', async () => {
    const { user, sent } = renderInBooks(<ProfitScreen />, { answers });
    const row = await screen.findByRole('row', { name: /^6010/ });
    const [month] = within(row).getAllByRole('button', { name: '48.50' });
    if (month) await user.click(month);
    const sheet = await screen.findByRole('complementary', { name: 'Details of this figure' });
    expect(await within(sheet).findByText('CRD PUR TIDEMARK FRT')).toBeDefined();
    expect(within(sheet).getByText(/01 Mar to 31 Mar: 48.50 in 1 entry/)).toBeDefined();
    expect(within(sheet).getByText('Tidemark Freight').getAttribute('href')).toBe(
      '/books/books/ledger/6010?entry=entry',
    );
    expect(sent.at(-1)?.path).toBe(
      '/ledger-rows?accountId=6010&from=2026-03-01&to=2026-03-31&order=newest&limit=100',
    );
  });

  it('is saved on record, with other days and without a comparison', async () => {
    const { user, sent } = renderInBooks(<ProfitScreen />, { answers });
    await screen.findByText(/Result 591.50/);
    await user.click(screen.getByRole('button', { name: /Compared with/ }));
    await user.click(await screen.findByRole('button', { name: 'nothing' }));
    await user.clear(screen.getByLabelText('From'));
    await user.type(screen.getByLabelText('From'), '2026-01-01');
    await user.tab();
    await waitFor(() => expect(sent.at(-1)?.path).toContain('from=2026-01-01&to=2026-03-31'));
    await user.click(await screen.findByRole('button', { name: 'Save CSV' }));
    await waitFor(() => expect(saveText).toHaveBeenCalled());
    expect(sent).toContainEqual({ method: 'POST', path: '/exports', body: { what: 'report' } });
    const [text = '', name] = vi.mocked(saveText).mock.calls[0] ?? [];
    expect(String(text)).toContain('Result,0.00,0.00,0.00,0.00,0.00,591.50,591.50');
    expect(name).toBe('Profit and loss of Larkmoor Kiln Works.csv');
  });

  it('says what is wrong with a period', async () => {
    renderInBooks(<ProfitScreen />, {
      answers: { 'GET /reports/totals': problem('REPORT_TURNED', { from: 'a', to: 'b' }) },
    });
    expect(await screen.findByText(/before it begins on a. Swap the two days./)).toBeDefined();
  });

  it('says what to do where nothing is in the period', async () => {
    renderInBooks(<ProfitScreen />, { answers: { 'GET /reports/totals': totals({ totals: [] }) } });
    expect(await screen.findByText('No entries in this period')).toBeDefined();
  });
});

describe('the balance sheet and the trial balance', () => {
  it('come to the same on both sides', async () => {
    renderInBooks(<BalanceSheetScreen />, { answers });
    expect(await screen.findByText(/601.50 of assets on 31 March 2026/)).toBeDefined();
    expect(cells('Assets')[0]).toBe('601.50');
    expect(cells('Liabilities and equity')[0]).toBe('601.50');
    expect(cells('Results of earlier years')[0]).toBe('10.00');
    expect(cells('Result of the year')[0]).toBe('591.50');
  });

  it('shows each balance on its side', async () => {
    renderInBooks(<TrialBalanceScreen />, { answers });
    expect(await screen.findByText('650.00 on both sides on 31 March 2026')).toBeDefined();
    expect(cells('4010')).toEqual(['—', '650.00']);
    expect(cells('Total')).toEqual(['650.00', '650.00']);
  });
});

describe('periods', () => {
  it('are six months by default, and are compared with others of the same length', () => {
    expect(usualPeriod('2026-03-14')).toEqual({ from: '2025-10-01', to: '2026-03-31' });
    const half = usualPeriod('2026-03-14');
    expect(comparedPeriod(half, 'lastYear')).toEqual({ from: '2024-10-01', to: '2025-03-31' });
    expect(comparedPeriod(half, 'before')).toEqual({ from: '2025-04-01', to: '2025-09-30' });
    expect(comparedPeriod(half, 'none')).toBeNull();
    const days = { from: '2026-03-10', to: '2026-03-16' };
    expect(comparedPeriod(days, 'before')).toEqual({ from: '2026-03-03', to: '2026-03-09' });
    const leap = { from: '2024-02-01', to: '2024-02-29' };
    expect(comparedPeriod(leap, 'lastYear')).toEqual({ from: '2023-02-01', to: '2023-02-28' });
    expect(comparedPeriod({ from: '2023-02-01', to: '2023-02-28' }, 'lastYear')?.to).toBe(
      '2022-02-28',
    );
    expect(comparedPeriod({ from: '2025-02-01', to: '2025-02-28' }, 'lastYear')?.to).toBe(
      '2024-02-29',
    );
  });
});
