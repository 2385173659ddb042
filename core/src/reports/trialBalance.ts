import { t } from '../words/t.ts';
import {
  type AccountTotal,
  closingOf,
  type ReportAccount,
  type ReportRow,
  sumRow,
} from './accountTotals.ts';

/** The balances of all accounts on a day: debits and credits come to the same. */
export interface TrialBalance {
  /** Debit and credit of each account that has a balance. */
  readonly rows: readonly ReportRow[];
  readonly total: ReportRow;
}

/** The trial balance at the end of a period: a column for debits and one for credits, both positive. */
export function trialBalance(
  accounts: readonly ReportAccount[],
  totals: readonly AccountTotal[],
): TrialBalance {
  const byAccount = new Map(totals.map((total) => [total.accountId, closingOf(total)]));
  const rows = [...accounts]
    .sort((a, b) => a.code.localeCompare(b.code))
    .flatMap(({ id, code, name }): ReportRow[] => {
      const balance = byAccount.get(id) ?? 0;
      if (balance === 0) return [];
      const amounts = [Math.max(balance, 0), Math.max(-balance, 0)];
      return [{ key: id, label: `${code} ${name}`, accountId: id, kind: 'account', amounts }];
    });
  return { rows, total: { ...sumRow(t`Total`, rows, 2), kind: 'result' } };
}
