import type { LedgerRows } from '@zubrell/contract/ledger';
import type {
  AccountTotals,
  AgedDocuments,
  CashFlow,
  GroupedTotals,
} from '@zubrell/contract/reports';
import type { TaxDraft, TaxReturns } from '@zubrell/contract/tax';
import { closingOf } from '@zubrell/core/reports/accountTotals';
import { agedList } from '@zubrell/core/reports/aged';
import { balanceSheet } from '@zubrell/core/reports/balanceSheet';
import { cashReport } from '@zubrell/core/reports/cashReport';
import { taxUnexplained } from '@zubrell/core/tax/taxReturn';
import type { Walker } from './walker.ts';

/** What of two reports should be the same and isn't: what, one figure, the other. */
export type Disagreement = readonly [what: string, one: number, other: number];

const BEGINNING = '2024-01-01';

/**
 * Asks every report on a day and holds them against each other: the trial balance comes to nil, the balance sheet
 * balances, aged lists are their accounts, the tax return is the tax accounts, registers end at the trial balance, cash
 * is the bank accounts, and what payees come to is the profit.
 */
export async function reportsDisagree(walker: Walker, to: string): Promise<Disagreement[]> {
  const { client, mo } = walker;
  const get = <T>(place: string) => client.get<T>(`${mo.path}${place}`);
  const { accounts } = await mo.setup();
  const { totals } = await get<AccountTotals>(`/reports/totals?from=${BEGINNING}&to=${to}`);
  const found: Disagreement[] = [];
  const same = (what: string, one: number, other: number) => {
    if (one !== other) found.push([what, one, other]);
  };
  const balanceOf = (id: string) => {
    const total = totals.find(({ accountId }) => accountId === id);
    return total ? closingOf(total) : 0;
  };
  const sum = (numbers: readonly number[]) => numbers.reduce((a, b) => a + b, 0);
  same('trial balance', sum(totals.map(closingOf)), 0);

  const sheet = balanceSheet(accounts, [totals]);
  const assets = sheet.sections[0].rows.at(-1)?.amounts[0] ?? 0;
  same('balance sheet', assets, sheet.against.amounts[0] ?? 0);

  for (const side of ['receivables', 'payables'] as const) {
    const aged = await get<AgedDocuments>(`/reports/aged?side=${side}&on=${to}`);
    same(`${side} account`, aged.balance, balanceOf(aged.accountId ?? ''));
    const list = agedList(aged.documents, {
      on: to,
      balance: aged.balance,
      sign: 1,
      payeeName: (id) => id,
    });
    same(`${side} by age`, Number(list.total.amounts.at(-1)), aged.balance);
    if (!walker.wasClosed)
      same(`${side} by document`, sum(aged.documents.map(({ open }) => open)), aged.balance);
  }

  const profit = sum(
    accounts
      .filter(({ type }) => type === 'income' || type === 'expense')
      .map(({ id }) => -balanceOf(id)),
  );
  for (const by of ['payee', 'job'] as const) {
    const grouped = await get<GroupedTotals>(
      `/reports/grouped?from=${BEGINNING}&to=${to}&by=${by}`,
    );
    same(`by ${by}`, sum(grouped.totals.map(({ income, costs }) => income - costs)), profit);
  }

  const cash = await get<CashFlow>(`/reports/cash?from=${BEGINNING}&to=${to}`);
  const { total } = cashReport(cash.accounts, {
    width: cash.months.length,
    accountName: (id) => id,
  });
  const banks = walker.banksHere().map(({ account }) => balanceOf(account));
  same('cash', total.amounts.at(-1) ?? 0, sum(banks));

  for (const { accountId: account } of totals.slice(0, 2)) {
    const register = await get<LedgerRows>(`/accounts/${account}/register?to=${to}`);
    same('register', register.items[0]?.balance ?? 0, balanceOf(account));
    same('register totals', register.debits + register.credits, balanceOf(account));
  }

  const { next } = await get<TaxReturns>('/tax-returns');
  const from = next.from > to ? null : next.from;
  if (from !== null) {
    const { agreement } = await get<TaxDraft>(`/tax-returns/next?from=${from}&to=${to}`);
    same('tax', taxUnexplained(agreement), 0);
    same(
      'tax accounts',
      agreement.balance,
      sum(agreement.accounts.map((each) => balanceOf(each.accountId))),
    );
  }
  return found;
}
