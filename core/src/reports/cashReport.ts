import type { AccountId } from '../ids.ts';
import { type Minor, sumMinor } from '../money/minor.ts';
import { t } from '../words/t.ts';
import type { ReportRow, ReportSection } from './accountTotals.ts';

/** What came in and went out of a bank account in a month. */
export interface CashMonth {
  readonly in: Minor;
  /** Negative. */
  readonly out: Minor;
  /** From and to other own accounts. */
  readonly moved: Minor;
}

/** A bank account's money over some months. */
export interface CashAccount {
  readonly accountId: AccountId;
  readonly opening: Minor;
  readonly months: readonly CashMonth[];
}

/**
 * Money in and out by month over all bank accounts, and what stood on each at the end of each month.
 *
 * @returns one figure for each month
 */
export function cashReport(
  accounts: readonly CashAccount[],
  {
    width,
    accountName,
  }: {
    readonly width: number;
    readonly accountName: (id: AccountId) => string;
  },
): {
  readonly sections: readonly [flow: ReportSection, balances: ReportSection];
  /** What stood on all accounts together at the end of each month. */
  readonly total: ReportRow;
} {
  const byMonth = (of: (month: CashMonth) => Minor) =>
    Array.from({ length: width }, (_, at) =>
      sumMinor(accounts.map(({ months }) => (months[at] ? of(months[at]) : 0))),
    );
  const flows: readonly (readonly [string, (month: CashMonth) => Minor])[] = [
    [t`Money in`, (month) => month.in],
    [t`Money out`, ({ out }) => out],
    [t`Transfers between own accounts`, ({ moved }) => moved],
  ];
  const balances = accounts.map(
    ({ accountId, opening, months }): ReportRow => ({
      key: accountId,
      label: accountName(accountId),
      accountId,
      kind: 'account',
      amounts: runningFrom(opening, months.map(changeOf)),
    }),
  );
  return {
    sections: [
      {
        heading: t`In the month`,
        rows: [
          ...flows
            .map(([label, of]) => row(label, 'account', byMonth(of)))
            .filter(
              ({ key, amounts }) => key.startsWith('Money') || amounts.some((each) => each !== 0),
            ),
          row(t`Change`, 'sum', byMonth(changeOf)),
        ],
      },
      {
        heading: t`At the end of the month`,
        rows: balances.filter(({ amounts }) => amounts.some((amount) => amount !== 0)),
      },
    ],
    total: row(
      t`All bank accounts`,
      'result',
      Array.from({ length: width }, (_, at) =>
        sumMinor(balances.map(({ amounts }) => amounts[at] ?? 0)),
      ),
    ),
  };
}

function row(label: string, kind: ReportRow['kind'], amounts: readonly Minor[]): ReportRow {
  return { key: label, label, accountId: null, kind, amounts };
}

function changeOf({ in: came, out, moved }: CashMonth): Minor {
  return came + out + moved;
}

function runningFrom(opening: Minor, changes: readonly Minor[]): Minor[] {
  let balance = opening;
  return changes.map((change) => {
    balance += change;
    return balance;
  });
}
