import type { AccountType } from '../ledger/kinds.ts';
import { type Minor, sumMinor } from '../money/minor.ts';
import { t } from '../words/t.ts';
import {
  type AccountTotal,
  closingOf,
  hasFigures,
  type ReportAccount,
  type ReportRow,
  type ReportSection,
  sectionOf,
  signed,
  sumRow,
} from './accountTotals.ts';

/** What a business owns and owes on a day. */
export interface BalanceSheet {
  readonly sections: readonly [
    assets: ReportSection,
    liabilities: ReportSection,
    equity: ReportSection,
  ];
  /** Liabilities and equity together: the same as assets. */
  readonly against: ReportRow;
}

/**
 * The balance sheet at the end of a period that began with the year. Assets are positive, and so are liabilities and
 * equity; the result of the year, and of the years before, stand in equity as long as nobody has carried them to an account.
 *
 * @param columns the totals of each day's period, the day shown first; each from the first day of its year
 */
export function balanceSheet(
  accounts: readonly ReportAccount[],
  columns: readonly (readonly AccountTotal[])[],
): BalanceSheet {
  const width = columns.length;
  const byColumn = columns.map(
    (totals) => new Map(totals.map((total) => [total.accountId, total])),
  );
  const figures =
    (sign: 1 | -1) =>
    ({ id }: ReportAccount) =>
      byColumn.map((totals) => signed(sign, closing(totals.get(id))));
  const section = (heading: string, type: AccountType, sign: 1 | -1) =>
    sectionOf(accounts, { heading, type, figuresOf: figures(sign), width });
  const assets = section(t`Assets`, 'asset', 1);
  const liabilities = section(t`Liabilities`, 'liability', -1);
  const own = section(t`Equity`, 'equity', -1);
  const results = accounts.filter(({ type }) => type === 'income' || type === 'expense');
  const resultRow = (
    key: string,
    label: string,
    of: (total: AccountTotal) => Minor,
  ): ReportRow => ({
    key,
    label,
    accountId: null,
    kind: 'account',
    amounts: byColumn.map((totals) =>
      signed(
        -1,
        sumMinor(
          results.map(({ id }) => {
            const total = totals.get(id);
            return total ? of(total) : 0;
          }),
        ),
      ),
    ),
  });
  const earlier = resultRow('earlier', t`Results of earlier years`, ({ opening }) => opening);
  const thisYear = resultRow('thisYear', t`Result of the year`, ({ months }) => sumMinor(months));
  const rows = [...own.rows.slice(0, -1), earlier, thisYear].filter(hasFigures);
  const sum = sumRow(t`Equity`, rows, width);
  const owed = liabilities.rows.at(-1);
  return {
    sections: [assets, liabilities, { heading: t`Equity`, rows: [...rows, sum] }],
    against: {
      ...sumRow(t`Liabilities and equity`, owed ? [owed, sum] : [sum], width),
      kind: 'result',
    },
  };
}

const closing = (total: AccountTotal | undefined): Minor => (total ? closingOf(total) : 0);
