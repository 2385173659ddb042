import { sumMinor } from '../money/minor.ts';
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

/**
 * The profit and loss of a period, a column for each of its months and one for the total. Income is positive, and so are
 * costs; a loss is negative.
 *
 * @param width how many months the period has
 */
export function profitAndLoss(
  accounts: readonly ReportAccount[],
  totals: readonly AccountTotal[],
  width: number,
): ProfitAndLoss {
  const byAccount = new Map(totals.map((total) => [total.accountId, total]));
  const none = Array.from({ length: width }, () => 0);
  const figures =
    (sign: 1 | -1) =>
    ({ id }: ReportAccount) => {
      const months = (byAccount.get(id)?.months ?? none).map((amount) => signed(sign, amount));
      return [...months, sumMinor(months)];
    };
  const columns = width + 1;
  const income = sectionOf(accounts, {
    heading: 'Income',
    type: 'income',
    figuresOf: figures(-1),
    width: columns,
  });
  const costs = sectionOf(accounts, {
    heading: 'Costs',
    type: 'expense',
    figuresOf: figures(1),
    width: columns,
  });
  const [incomes, spent] = [income, costs].map(({ rows }) => rows.at(-1)?.amounts ?? []);
  const amounts = (incomes ?? []).map((amount, at) => amount - (spent?.[at] ?? 0));
  return {
    sections: [income, costs],
    result: { key: 'result', label: 'Result', accountId: null, kind: 'result', amounts },
  };
}
