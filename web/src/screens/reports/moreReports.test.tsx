import { screen, waitFor, within } from '@testing-library/react';
import type { Recharge } from '@zubrell/contract/documents';
import type { LedgerRow } from '@zubrell/contract/ledger';
import { describe, expect, it, vi } from 'vitest';
import { saveText } from '../../app/saveText.ts';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { testLedgerRow } from '../../testing/testLedgerRow.ts';
import { PayablesScreen } from './AgedScreen.tsx';
import { CashScreen } from './CashScreen.tsx';
import { ClearingScreen } from './ClearingScreen.tsx';
import { ByPayeeScreen } from './GroupedScreen.tsx';
import { GeneralLedgerScreen, JournalScreen } from './LedgerListScreen.tsx';
import { RechargesScreen } from './RechargesScreen.tsx';
import { StatementsReportScreen } from './StatementsReportScreen.tsx';

vi.mock('../../app/saveText.ts');
vi.mock('../../ui/Chart.tsx', () => ({
  Chart: ({ label }: { readonly label: string }) => <p>{label}</p>,
}));

const open = { count: 0, amount: 0 };
/** The cells of a row, without its name. */
const cells = (row: RegExp) =>
  within(screen.getByRole('row', { name: row }))
    .getAllByRole('cell')
    .map(({ textContent }) => textContent);
describe('income and costs by payee', () => {
  it('opens what a figure is made of, and shows what has no payee last', async () => {
    const { user, sent } = renderInBooks(<ByPayeeScreen />, {
      answers: {
        'GET /reports/grouped': {
          totals: [
            { id: null, income: 64_000, costs: 0, other: 0 },
            { id: 'tidemark', income: 0, costs: 4_850, other: 0 },
          ],
          open,
        },
        'GET /ledger-rows': {
          items: [testLedgerRow({ reference: 'RF18' })],
          next: null,
          count: 1,
          debits: 4_850,
          credits: 0,
        },
      },
    });
    expect(await screen.findByText('Result 591.50')).toBeDefined();
    expect(cells(/^Tidemark/).slice(0, 3)).toEqual(['—', '48.50', '−48.50']);
    expect(screen.getAllByRole('rowheader').at(-2)?.textContent).toBe('No payee');
    await user.click(screen.getByRole('button', { name: '48.50' }));
    const sheet = await screen.findByRole('complementary', { name: 'Details of this figure' });
    expect(await within(sheet).findByText('CRD PUR TIDEMARK FRT')).toBeDefined();
    expect(within(sheet).getByText('6010 Freight out')).toBeDefined();
    expect(sent.at(-1)?.path).toContain('/ledger-rows?payeeId=tidemark&of=expense&from=');
  });
});

describe('payables by age', () => {
  const answers = {
    'GET /reports/aged': {
      documents: [
        {
          id: 'bill',
          kind: 'bill',
          number: '2093',
          payeeId: 'tidemark',
          date: '2026-02-01',
          dueDate: '2026-02-15',
          open: -4_850,
          currency: null,
          original: null,
        },
      ],
      accountId: '2000',
      balance: -5_000,
      valuation: 0,
    },
  };

  it('comes to the account, and opens the documents of a column', async () => {
    const { user } = renderInBooks(<PayablesScreen />, { answers, query: '?to=2026-03-31' });
    expect(await screen.findByText(/50.00 on 31 March 2026, 50.00 of it overdue/)).toBeDefined();
    expect(cells(/^Tidemark/)).toEqual(['—', '—', '48.50', '—', '—', '48.50']);
    expect(cells(/^Not matched/).at(-1)).toBe('1.50');
    await user.click(screen.getAllByRole('button', { name: '48.50' })[0] ?? document.body);
    const sheet = screen.getByRole('complementary');
    expect(within(sheet).getByText('31 to 60 days')).toBeDefined();
    expect(within(sheet).getByText('Bill 2093')).toBeDefined();
  });
});

describe('cash', () => {
  it('shows money in and out and what stood at the end of each month', async () => {
    const none = { in: 0, out: 0, moved: 0 };
    renderInBooks(<CashScreen />, {
      answers: {
        'GET /reports/cash': {
          months: ['2026-02', '2026-03'],
          accounts: [
            {
              accountId: '1010',
              opening: 10_000,
              months: [{ in: 5_000, out: -2_000, moved: 0 }, none],
            },
          ],
          open: { count: 1, amount: 700 },
        },
      },
    });
    expect(await screen.findByText('130.00 on all bank accounts at the end')).toBeDefined();
    expect(cells(/^Money out/)).toEqual(['−20.00', '—']);
    expect(cells(/^All bank accounts/)).toEqual(['130.00', '130.00']);
    expect(screen.getByText('1 open line, 7.00')).toBeDefined();
  });
});

describe('ledger and journal', () => {
  const page = (items: readonly LedgerRow[], next: string | null) => ({
    items,
    next,
    count: 2,
    debits: 4_850,
    credits: -4_850,
  });
  const first = testLedgerRow({ reference: 'RF18' });
  const second = testLedgerRow({
    reference: 'RF18',
    legId: '2',
    accountId: '4010',
    amount: -4_850,
    balance: -5_850,
  });

  it('show each account with its balance before and after every posting', async () => {
    renderInBooks(<GeneralLedgerScreen />, {
      answers: { 'GET /ledger-rows': page([first, second], null) },
    });
    expect(await screen.findByText('2 postings, debits 48.50, credits 48.50')).toBeDefined();
    const before = screen.getAllByRole('row', { name: /^Opening balance/ });
    expect(before.map((row) => row.textContent)).toEqual([
      'Opening balance0.00',
      'Opening balance−10.00',
    ]);
    expect(screen.getAllByText('RF18')).toHaveLength(2);
  });

  it('saves all pages, though the screen shows the first', async () => {
    const { user } = renderInBooks(<JournalScreen />, {
      answers: {
        'GET /ledger-rows': (query: URLSearchParams) =>
          query.get('cursor') === null ? page([first], 'more') : page([second], null),
      },
    });
    expect(await screen.findByText(/Show more postings, 1 of 2 shown/)).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Save CSV' }));
    await waitFor(() => expect(saveText).toHaveBeenCalled());
    const [text = ''] = vi.mocked(saveText).mock.calls.at(-1) ?? [];
    expect(String(text)).toContain('6010 Freight out,Tidemark Freight,2026-03-03');
    expect(String(text)).toContain('4010 Sales of goods,Tidemark Freight,2026-03-03');
  });
});

describe('suspense and in transit', () => {
  it('has each item with its age, and says when there is nothing', async () => {
    const item = {
      accountId: '1500',
      legId: '1',
      entryId: 'entry',
      date: '2026-03-01',
      payeeId: null,
      text: 'CARD 0417',
      amount: 700,
      who: 'Mo Oakes',
    };
    renderInBooks(<ClearingScreen />, {
      answers: { 'GET /reports/clearing': { items: [item] } },
      query: '?to=2026-03-31',
    });
    expect(await screen.findByText(/1 item on 31 March 2026/)).toBeDefined();
    expect(cells(/^No payee/).slice(1)).toEqual(['30', 'CARD 0417', 'Mo Oakes', '7.00']);
  });

  it('says when there is nothing', async () => {
    renderInBooks(<ClearingScreen />, { answers: { 'GET /reports/clearing': { items: [] } } });
    expect(await screen.findByText(/Suspense and transit were zero/)).toBeDefined();
  });
});

describe('statements', () => {
  it('counts those that are agreed', async () => {
    const statement = {
      bankAccountId: 'everyday',
      from: '2026-03-01',
      to: '2026-03-31',
      state: 'agreed',
      opening: 0,
      lineCount: 1,
      openCount: 0,
      askedCount: 0,
      addsUp: 100,
      closing: 100,
      isClosingTyped: false,
      off: 0,
      agreedBy: 'Mo Oakes',
      agreedAt: null,
      changedCount: 0,
    };
    renderInBooks(<StatementsReportScreen />, {
      answers: {
        'GET /statements': {
          accounts: [
            {
              bankAccountId: 'everyday',
              cycle: { kind: 'month' },
              closedTo: null,
              hasOpening: true,
              isTicked: false,
              statements: [
                { ...statement, from: '2026-02-01', to: '2026-02-28', state: 'open', off: 35 },
                statement,
              ],
            },
          ],
        },
      },
      query: '?from=2026-01-01&to=2026-03-31',
    });
    expect(
      await screen.findByText(/1 of 2 statements that end in the period are agreed/),
    ).toBeDefined();
    expect(cells(/^1 February/)[0]).toBe('Not agreed');
  });
});

describe('costs to recharge', () => {
  const cost: Recharge = {
    legId: 'leg',
    entryId: 'entry',
    date: '2026-03-27',
    accountId: '6010',
    jobId: 'harbour',
    payeeId: 'tidemark',
    taxCodeId: null,
    net: 10_000,
    text: 'Stoneware',
    invoice: null,
  };
  const setup = {
    ...testBooks(),
    costObjects: [{ id: 'harbour', kind: 'job' as const, name: 'Harbour tiles', isOn: true }],
  };

  it('are taken onto an invoice together, numbered on', async () => {
    const { user, sent } = renderInBooks(<RechargesScreen />, {
      setup,
      answers: {
        'GET /recharges': { recharges: [cost] },
        'GET /documents': {
          documents: [],
          ages: [],
          today: '2026-04-01',
          series: {
            invoice: { next: '1106', missing: [] },
            creditNote: { next: 'C1', missing: [] },
          },
        },
        'POST /documents': { id: 'invoice', step: 9, words: 'Entered invoice 1106' },
      },
    });
    await user.click(await screen.findByLabelText('Select Stoneware'));
    await user.click(screen.getByRole('button', { name: 'Add 1 cost to an invoice' }));
    const dialog = await screen.findByRole('dialog');
    expect(within(dialog).getByLabelText<HTMLInputElement>('What line 1 is for').value).toBe(
      'Tidemark Freight, Stoneware',
    );
    await waitFor(() =>
      expect(within(dialog).getByLabelText('Number').getAttribute('placeholder')).toBe('1106'),
    );
    await user.type(within(dialog).getByLabelText('Customer'), 'Tidemark{Enter}');
    await user.click(within(dialog).getByRole('button', { name: 'Save invoice' }));
    await waitFor(() => expect(sent.some(({ method }) => method === 'POST')).toBe(true));
    expect(
      sent.find(({ method, path }) => method === 'POST' && path === '/documents')?.body,
    ).toMatchObject({
      kind: 'invoice',
      number: '1106',
      payeeId: 'tidemark',
      lines: [{ rechargedLegId: 'leg', amount: 10_000, accountId: '4010' }],
    });
  });

  it('show the invoice that they are on', async () => {
    const { user } = renderInBooks(<RechargesScreen />, {
      setup,
      answers: {
        'GET /recharges': { recharges: [{ ...cost, invoice: { id: 'i', number: '1105' } }] },
      },
    });
    expect(await screen.findByText(/waits here for an invoice/)).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Invoiced' }));
    expect(screen.getByRole('link', { name: '1105' }).getAttribute('href')).toContain('document=i');
  });
});
