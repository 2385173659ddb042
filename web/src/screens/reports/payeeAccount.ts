import type { LedgerRow } from '@zubrell/contract/ledger';
import type { ReportColumn, ReportTable } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import type { LedgerListRow } from './ledgerList.ts';

const COLUMNS = [
  { name: t`Date`, kind: 'date' },
  { name: t`Number`, kind: 'text' },
  { name: t`Invoiced`, kind: 'amount' },
  { name: t`Paid`, kind: 'amount' },
  { name: t`Balance`, kind: 'amount' },
] as const satisfies readonly ReportColumn[];

/**
 * A customer's account as rows of a report: what was left before, each posting with what is left after it, and what is
 * left at the end.
 *
 * @param rows of the account for what customers owe, the oldest first
 * @param opening what was left before them
 */
export function payeeAccount(
  rows: readonly LedgerRow[],
  opening: number,
): Pick<ReportTable<LedgerListRow>, 'columns' | 'sections'> & {
  readonly foot: LedgerListRow;
  readonly left: number;
} {
  let left = opening;
  const shown = rows.map((row): LedgerListRow => {
    const { legId, date, turned, number, text, amount, accountId, entryId } = row;
    left += amount;
    return {
      key: `${legId} ${date} ${turned}`,
      label:
        row.kind === 'document' ? (amount < 0 ? t`Credit note` : t`Invoice`) : text || t`Payment`,
      kind: 'account',
      address: `/ledger/${accountId}?entry=${entryId}`,
      amounts: [date, number, amount > 0 ? amount : null, amount < 0 ? -amount : null, left],
    };
  });
  const balance = (key: string, label: string, minor: number, kind: 'sum' | 'result') => ({
    key,
    label,
    kind,
    address: '',
    amounts: [null, null, null, null, minor],
  });
  return {
    columns: COLUMNS,
    sections: [
      { heading: '', rows: [balance('before', t`Opening balance`, opening, 'sum'), ...shown] },
    ],
    foot: balance('left', t`Closing balance`, left, 'result'),
    left,
  };
}
