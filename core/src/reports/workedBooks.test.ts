import { expect, it } from 'vitest';
import { buildLegs, type Leg, type TaxInForce } from '../ledger/buildLegs.ts';
import type { Coding } from '../ledger/coding.ts';
import { type TaxedAccount, taxSide } from '../ledger/taxSide.ts';
import { toDecimal } from '../money/formatAmount.ts';
import { parseAmount } from '../money/parseAmount.ts';
import type { AccountTotal, ReportAccount } from './accountTotals.ts';
import { balanceSheet } from './balanceSheet.ts';
import { profitAndLoss } from './profitAndLoss.ts';
import { trialBalance } from './trialBalance.ts';

/*
 * Ten small sets of books, worked by hand. Each says the rule that it follows, in the words of common bookkeeping
 * practice, then what happened, and what the reports have to say. Read a posting as
 *
 *   bank −120.00: clay 20%          money out, coded with tax inside
 *   owing −120.00: clay 20%         a bill: owed to a supplier
 *   journal: rent 600.00, accrued   debit the first, credit the second
 *
 * Profit is income less costs. Owned is all assets, owed all liabilities. Tax is output less input tax.
 */

const chart: Readonly<Record<string, TaxedAccount>> = {
  bank: { type: 'asset', role: null, isBank: true, tax: 'byType' },
  savings: { type: 'asset', role: null, isBank: true, tax: 'byType' },
  owed: { type: 'asset', role: 'receivables', isBank: false, tax: 'byType' },
  prepaid: { type: 'asset', role: null, isBank: false, tax: 'never' },
  kiln: { type: 'asset', role: 'fixedAssets', isBank: false, tax: 'byType' },
  wornOff: { type: 'asset', role: null, isBank: false, tax: 'never' },
  inputTax: { type: 'asset', role: 'inputTax', isBank: false, tax: 'byType' },
  owing: { type: 'liability', role: 'payables', isBank: false, tax: 'byType' },
  outputTax: { type: 'liability', role: 'outputTax', isBank: false, tax: 'byType' },
  accrued: { type: 'liability', role: null, isBank: false, tax: 'byType' },
  loan: { type: 'liability', role: 'loans', isBank: false, tax: 'byType' },
  putIn: { type: 'equity', role: null, isBank: false, tax: 'byType' },
  drawings: { type: 'equity', role: 'drawings', isBank: false, tax: 'byType' },
  sales: { type: 'income', role: null, isBank: false, tax: 'byType' },
  clay: { type: 'expense', role: null, isBank: false, tax: 'byType' },
  rent: { type: 'expense', role: null, isBank: false, tax: 'byType' },
  advice: { type: 'expense', role: null, isBank: false, tax: 'byType' },
  meals: { type: 'expense', role: null, isBank: false, tax: 'byType' },
  interest: { type: 'expense', role: null, isBank: false, tax: 'byType' },
  wear: { type: 'expense', role: null, isBank: false, tax: 'byType' },
};
const code = (name: string, change: Partial<TaxInForce> = {}): TaxInForce => ({
  id: name,
  name,
  kind: 'standard',
  use: 'both',
  rate: 2_000,
  inputAccountId: 'inputTax',
  outputAccountId: 'outputTax',
  recoverable: 10_000,
  ...change,
});
const codes = [
  code('20%'),
  code('half', { recoverable: 5_000 }),
  code('reverse', { kind: 'reverseCharge' }),
];

const EXAMPLES: readonly (readonly [rule: string, postings: string, reports: string])[] = [
  [
    'A cost counts when it is incurred, not when it is paid: a bill is a cost and a debt on its own date.',
    'owing -120.00: clay 20%',
    'profit -100.00, owned 20.00, owed 120.00, tax -20.00, money 0.00',
  ],
  [
    'Paying a debt is no cost: the payment lowers the debt and the money, and the result stays.',
    'owing -120.00: clay 20%; bank -120.00: owing',
    'profit -100.00, owned -100.00, owed 0.00, tax -20.00, money -120.00',
  ],
  [
    'Revenue is without the tax that is collected for the tax office.',
    'bank 240.00: sales 20%',
    'profit 200.00, owned 240.00, owed 40.00, tax 40.00, money 240.00',
  ],
  [
    'What comes back from a supplier lowers the cost and the input tax; it is no revenue.',
    'bank -120.00: clay 20%; bank 60.00: clay 20%',
    'profit -50.00, owned -50.00, owed 0.00, tax -10.00, money -60.00',
  ],
  [
    'Input tax that doesn’t come back is part of the cost.',
    'bank -120.00: meals half',
    'profit -110.00, owned -110.00, owed 0.00, tax -10.00, money -120.00',
  ],
  [
    'Under reverse charge the buyer owes the tax and deducts it: nothing is left of it where all of it comes back.',
    'bank -100.00: advice reverse',
    'profit -100.00, owned -80.00, owed 20.00, tax 0.00, money -100.00',
  ],
  [
    'What the owner puts in or takes out changes equity and never the result.',
    'bank 1000.00: putIn; bank -300.00: drawings',
    'profit 0.00, owned 700.00, owed 0.00, tax 0.00, money 700.00',
  ],
  [
    'Of a loan’s instalment only the interest is a cost; the rest pays the debt back. A move between own accounts is neither.',
    'bank 5000.00: loan; bank -250.00: 200.00 loan | rest interest; bank -700.00: savings',
    'profit -50.00, owned 4750.00, owed 4800.00, tax 0.00, money 4750.00',
  ],
  [
    'What serves for years is an asset; its cost is spread over the years by depreciation, which moves no money.',
    'bank -2400.00: kiln 20%; journal: wear 180.00, wornOff',
    'profit -180.00, owned -180.00, owed 0.00, tax -400.00, money -2400.00',
  ],
  [
    'Costs belong to the period that they serve: rent paid ahead waits as an asset, energy not billed yet is accrued.',
    'bank -600.00: prepaid; journal: rent 200.00, prepaid; journal: clay 90.00, accrued',
    'profit -290.00, owned -200.00, owed 90.00, tax 0.00, money -600.00',
  ],
];

it.each(EXAMPLES)('%s', (_rule, postings, reports) => {
  expect(reportsOf(postings.split('; ').flatMap(legsOf))).toBe(reports);
});

const cents = (typed: string) => parseAmount(typed, '.', 'EUR');

function legsOf(posting: string): readonly Leg[] {
  const [head = '', rest = ''] = posting.split(': ');
  const plain = { taxCodeId: null, role: 'base' } as const;
  if (head === 'journal') {
    const [debit = '', credit = ''] = rest.split(', ');
    const [accountId = '', amount = '0'] = debit.split(' ');
    return [
      { ...plain, accountId, amount: cents(amount) },
      { ...plain, accountId: credit, amount: -cents(amount) },
    ];
  }
  const [own = '', amount = '0'] = head.split(' ');
  return buildLegs(cents(amount), own, codingOf(rest), {
    taxSide: (id, use) => taxSide(chart[id] as TaxedAccount, use),
    accountName: (id) => id,
    tax: (id) => codes.find(({ name }) => name === id) ?? code(id),
    isBank: (id) => chart[id]?.isBank ?? false,
  });
}

/** @example codingOf('200.00 loan | rest interest') */
function codingOf(typed: string): Coding {
  const parts = typed.split(' | ').map((part) => {
    const words = part.split(' ');
    const isShared = words[0] === 'rest' || !Number.isNaN(Number(words[0]));
    const [share = 'rest', accountId = '', taxCodeId = null] = isShared
      ? words
      : ['rest', ...words];
    return {
      accountId,
      taxCodeId,
      share:
        share === 'rest'
          ? ({ kind: 'rest' } as const)
          : ({ kind: 'fixed', amount: -cents(share) } as const),
      tax: null,
    };
  });
  return { payeeId: null, parts, note: null };
}

/** What the reports say of legs, in one line. */
function reportsOf(legs: readonly Leg[]): string {
  const accounts: ReportAccount[] = Object.entries(chart).map(([id, { type }]) => ({
    id,
    code: id,
    name: id,
    type,
  }));
  const sumOn = (id: string) =>
    legs.filter(({ accountId }) => accountId === id).reduce((sum, { amount }) => sum + amount, 0);
  const totals: AccountTotal[] = accounts.map(({ id }) => ({
    accountId: id,
    opening: 0,
    months: [sumOn(id)],
  }));
  const profit = profitAndLoss(accounts, { totals, width: 1, compared: null }).result.amounts[0];
  const sheet = balanceSheet(accounts, [totals]);
  const [owned, owed] = sheet.sections.map(({ rows }) => rows.at(-1)?.amounts[0] ?? 0);
  expect(sheet.against.amounts[0]).toBe(owned);
  const [debits, credits] = trialBalance(accounts, totals).total.amounts;
  expect(debits).toBe(credits);
  const shown = (name: string, amount: number | undefined) =>
    `${name} ${toDecimal(amount === 0 ? 0 : (amount ?? 0), 'EUR')}`;
  return [
    shown('profit', profit),
    shown('owned', owned),
    shown('owed', owed),
    shown('tax', -sumOn('inputTax') - sumOn('outputTax')),
    shown('money', sumOn('bank') + sumOn('savings')),
  ].join(', ');
}
