import type { AccountId } from '../ids.ts';
import type { AccountType } from '../ledger/kinds.ts';
import { type Minor, sumMinor } from '../money/minor.ts';

/** An account as reports see it. */
export interface ReportAccount {
  readonly id: AccountId;
  readonly code: string;
  readonly name: string;
  readonly type: AccountType;
}

/** What happened on one account in a period, debit positive. */
export interface AccountTotal {
  readonly accountId: AccountId;
  /** The balance before the period. */
  readonly opening: Minor;
  /** What moved in each month of the period. */
  readonly months: readonly Minor[];
}

/** A row of a report: what an account comes to, or several together. */
export interface ReportRow {
  readonly key: string;
  readonly label: string;
  /** The account behind it; null for a sum. */
  readonly accountId: AccountId | null;
  readonly kind: 'account' | 'sum' | 'result';
  /** One for each column. */
  readonly amounts: readonly Minor[];
}

/** Rows under a heading. */
export interface ReportSection {
  readonly heading: string;
  readonly rows: readonly ReportRow[];
}

/** Whether a row has a figure other than zero. */
export function hasFigures({ amounts }: Pick<ReportRow, 'amounts'>): boolean {
  return amounts.some((amount) => amount !== 0);
}

/** Figures of several rows, column by column. @example sumColumns([[1, 2], [3, 4]], 2) // [4, 6] */
function sumColumns(rows: readonly (readonly Minor[])[], width: number): Minor[] {
  return Array.from({ length: width }, (_, at) => sumMinor(rows.map((row) => row[at] ?? 0)));
}

/** An amount as it is, or with the other sign; never a negative zero. */
export function signed(sign: 1 | -1, amount: Minor): Minor {
  return amount === 0 ? 0 : sign * amount;
}

/** What an account comes to at the end of a period, debit positive. */
export function closingOf({ opening, months }: AccountTotal): Minor {
  return opening + sumMinor(months);
}

/** What a section of a report is made of. */
export interface SectionWanted {
  readonly heading: string;
  readonly type: AccountType;
  /** One figure of an account for each column. */
  readonly figuresOf: (account: ReportAccount) => readonly Minor[];
  /** How many columns there are. */
  readonly width: number;
}

/** The accounts of a type with their sum, in the order of codes; those without any figure are left out. */
export function sectionOf(
  accounts: readonly ReportAccount[],
  { heading, type, figuresOf, width }: SectionWanted,
): ReportSection {
  const rows = accounts
    .filter((account) => account.type === type)
    .sort((a, b) => a.code.localeCompare(b.code))
    .map(
      (account): ReportRow => ({
        key: account.id,
        label: `${account.code} ${account.name}`,
        accountId: account.id,
        kind: 'account',
        amounts: figuresOf(account),
      }),
    )
    .filter(hasFigures);
  return { heading, rows: [...rows, sumRow(heading, rows, width)] };
}

/** A row that adds up others, column by column. @param width how many columns there are */
export function sumRow(label: string, rows: readonly ReportRow[], width: number): ReportRow {
  const amounts = sumColumns(
    rows.map((row) => row.amounts),
    width,
  );
  return { key: label, label, accountId: null, kind: 'sum', amounts };
}
