import { sumMinor } from '../money/minor.ts';
import { t } from '../words/t.ts';
import {
  type AccountTotal,
  type ReportAccount,
  type ReportRow,
  type ReportSection,
  sectionOf,
  signed,
} from './accountTotals.ts';

/** Income and costs of a period with what is left. */
export interface ProfitAndLoss {
  readonly sections: readonly [income: ReportSection, costs: ReportSection];
  /** Income less costs. */
  readonly result: ReportRow;
}

/** What a profit and loss is worked out from. */
interface PeriodTotals {
  readonly totals: readonly AccountTotal[];
  /** How many months the period has. */
  readonly width: number;
  /** The same for another period that it is compared with; null for none. */
  readonly compared: readonly AccountTotal[] | null;
}

/**
 * The profit and loss of a period: a column for each of its months, one for the total, and, where it is compared, one for
 * the total of the other period and one for the change. Income is positive, and so are costs; a loss is negative.
 */
export function profitAndLoss(
  accounts: readonly ReportAccount[],
  { totals, width, compared }: PeriodTotals,
): ProfitAndLoss {
  const byAccount = new Map(totals.map((total) => [total.accountId, total.months]));
  const others = compared && new Map(compared.map((total) => [total.accountId, total.months]));
  const none = Array.from({ length: width }, () => 0);
  const figuresOf = (sign: 1 | -1) => (account: ReportAccount) => {
    const months = (byAccount.get(account.id) ?? none).map((amount) => signed(sign, amount));
    const total = sumMinor(months);
    if (others === null) return [...months, total];
    const other = signed(sign, sumMinor(others.get(account.id) ?? []));
    return [...months, total, other, total - other];
  };
  const columns = width + (others === null ? 1 : 3);
  const section = (heading: string, type: 'income' | 'expense', sign: 1 | -1) =>
    sectionOf(accounts, { heading, type, figuresOf: figuresOf(sign), width: columns });
  const income = section(t`Income`, 'income', -1);
  const costs = section(t`Costs`, 'expense', 1);
  const [incomes = [], spent = []] = [income, costs].map(({ rows }) => rows.at(-1)?.amounts ?? []);
  const amounts = incomes.map((amount, at) => amount - (spent[at] ?? 0));
  return {
    sections: [income, costs],
    result: { key: 'result', label: t`Result`, accountId: null, kind: 'result', amounts },
  };
}
