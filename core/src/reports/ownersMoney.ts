import type { AccountId } from '../ids.ts';
import { sumMinor } from '../money/minor.ts';
import { t } from '../words/t.ts';
import { type AccountTotal, closingOf, type ReportRow, sumRow } from './accountTotals.ts';

/** An owner, and the accounts on which that owner's money stands. */
export interface OwnersAccounts {
  readonly name: string;
  readonly drawings: AccountId | null;
  readonly capital: AccountId | null;
}

/** What stands in each column of `ownersMoney`, in its order. */
export const ownersColumns = [t`Before`, t`Put in`, t`Taken out`, t`After`] as const;

/** One owner's money: a row for each account, and what both come to where there are two. */
export interface OwnerSection {
  readonly heading: string;
  readonly rows: readonly ReportRow[];
}

/**
 * What each owner put into the business and took out of it in a period. What the owner has in the business is positive.
 *
 * @param nameOf code and name of an account
 * @returns sections of the owners in their order, without those of whom nothing stands there, and the total
 * @example 500.00 put in and 120.00 drawn: 0.00, 500.00, −120.00, 380.00
 */
export function ownersMoney(
  owners: readonly OwnersAccounts[],
  totals: readonly AccountTotal[],
  nameOf: (accountId: AccountId) => string,
): { readonly sections: readonly OwnerSection[]; readonly total: ReportRow } {
  const byAccount = new Map(totals.map((total) => [total.accountId, total]));
  const rowOf = (accountId: AccountId | null, isCapital: boolean): ReportRow[] => {
    const total = accountId === null ? undefined : byAccount.get(accountId);
    if (accountId === null || total === undefined) return [];
    const moved = plain(-sumMinor(total.months));
    const amounts = [
      plain(-total.opening),
      isCapital ? moved : 0,
      isCapital ? 0 : moved,
      plain(-closingOf(total)),
    ];
    return [{ key: accountId, label: nameOf(accountId), accountId, kind: 'account', amounts }];
  };
  const sections = owners.flatMap(({ name, drawings, capital }): OwnerSection[] => {
    const rows = [...rowOf(capital, true), ...(drawings === capital ? [] : rowOf(drawings, false))];
    if (rows.length === 0) return [];
    const sum = { ...sumRow(t`Subtotal`, rows, ownersColumns.length), key: `sum ${name}` };
    return [{ heading: name, rows: rows.length > 1 ? [...rows, sum] : rows }];
  });
  const all = sections.flatMap(({ rows }) => rows.filter(({ kind }) => kind === 'account'));
  return { sections, total: { ...sumRow(t`Total`, all, ownersColumns.length), kind: 'result' } };
}

/** Never a negative zero. */
const plain = (amount: number) => (amount === 0 ? 0 : amount);
