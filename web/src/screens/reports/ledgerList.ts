import type { LedgerRow } from '@zubrell/contract/ledger';
import type { AccountId, PayeeId } from '@zubrell/core/ids';
import type { ReportColumn, ReportTable, TableRow } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';

/** A row opens its entry. */
export interface LedgerListRow extends TableRow {
  /** Below the books' own address; empty for a balance. */
  readonly address: string;
}

interface Names {
  readonly order: 'account' | 'date';
  readonly accountName: (id: AccountId) => string;
  readonly payeeName: (id: PayeeId | null) => string;
}

const TEXTS = [
  { name: t`Date`, kind: 'date' },
  { name: t`Wording`, kind: 'text' },
  { name: t`Number`, kind: 'text' },
  { name: t`Debit`, kind: 'amount' },
  { name: t`Credit`, kind: 'amount' },
] as const satisfies readonly ReportColumn[];

/**
 * Legs of the ledger as rows of a report: under their accounts with opening, balance after each and closing, or one
 * after the other as they happened, each with its account.
 */
export function ledgerList(
  rows: readonly LedgerRow[],
  names: Names,
): Pick<ReportTable<LedgerListRow>, 'columns' | 'sections'> {
  if (names.order === 'date') {
    const columns = [{ name: t`Payee`, kind: 'text' }, ...TEXTS] as const;
    return {
      columns,
      sections: [{ heading: '', rows: rows.map((row) => journalRow(row, names)) }],
    };
  }
  const accounts = [...new Set(rows.map(({ accountId }) => accountId))];
  return {
    columns: [...TEXTS, t`Balance`],
    sections: accounts.map((accountId) => {
      const own = rows.filter((row) => row.accountId === accountId);
      const [first] = own;
      const opening = (first?.balance ?? 0) - (first?.amount ?? 0);
      return {
        heading: names.accountName(accountId),
        rows: [
          balanceRow(t`opening ${accountId}`, t`Opening balance`, opening),
          ...own.map((row) => accountRow(row, names)),
        ],
      };
    }),
  };
}

function partsOf(row: LedgerRow) {
  const { date, text, number, reference, amount, accountId, entryId, legId, turned } = row;
  return {
    key: `${legId} ${date} ${turned}`,
    kind: 'account' as const,
    address: `/ledger/${accountId}?entry=${entryId}`,
    cells: [
      date,
      text,
      number ?? reference,
      amount > 0 ? amount : null,
      amount < 0 ? -amount : null,
    ],
  };
}

function journalRow(row: LedgerRow, { accountName, payeeName }: Names): LedgerListRow {
  const { cells, ...own } = partsOf(row);
  return { ...own, label: accountName(row.accountId), amounts: [payeeName(row.payeeId), ...cells] };
}

function accountRow(row: LedgerRow, { payeeName }: Names): LedgerListRow {
  const { cells, ...own } = partsOf(row);
  return { ...own, label: payeeName(row.payeeId) || t`No payee`, amounts: [...cells, row.balance] };
}

function balanceRow(key: string, label: string, balance: number): LedgerListRow {
  return { key, label, kind: 'sum', address: '', amounts: [null, null, null, null, null, balance] };
}
