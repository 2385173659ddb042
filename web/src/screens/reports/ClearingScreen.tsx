import { daysBetween } from '@zubrell/core/dates/calendarDate';
import { sumOf } from '@zubrell/core/money/minor';
import type { ReportTable, TableRow } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useNavigate } from 'react-router';
import { reportsApi } from '../../api/reports.ts';
import { counted, formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { ReportTableView } from './ReportTableView.tsx';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

/** A row opens the entry that it is of. */
interface ClearingRow extends TableRow {
  readonly address: string;
}

const AMOUNT = 4;

/** What stands on suspense and between own accounts on a day, item by item, with its age. */
export function ClearingScreen() {
  const { booksId, setup, accountName, payeeName } = useBooks();
  const { period } = useReportPeriod();
  const navigate = useNavigate();
  const on = period.to;
  const facts = useReportFacts(period, true);
  const { currentData: data, error } = reportsApi.useClearingItemsQuery({ booksId, on });
  const items = data?.items ?? [];
  const accounts = [...new Set(items.map(({ accountId }) => accountId))];
  const sections = accounts.map((accountId) => {
    const own = items.filter((item) => item.accountId === accountId);
    const rows = own.map(
      (item): ClearingRow => ({
        key: `${item.legId} ${item.date} ${item.amount}`,
        label: payeeName(item.payeeId) || t`No payee`,
        kind: 'account',
        address: `/books/${booksId}/ledger/${accountId}?entry=${item.entryId}`,
        amounts: [item.date, String(daysBetween(item.date, on)), item.text, item.who, item.amount],
      }),
    );
    const sum: ClearingRow = {
      key: `sum ${accountId}`,
      label: t`Balance`,
      kind: 'sum',
      address: '',
      amounts: [null, null, null, null, sumOf(own)],
    };
    return { heading: accountName(accountId), rows: [...rows, sum] };
  });
  const table: ReportTable<ClearingRow> | null =
    data === undefined
      ? null
      : {
          title: t`Suspense and in transit`,
          facts,
          columns: [
            { name: t`Date`, kind: 'date' },
            { name: t`Days`, kind: 'text' },
            { name: t`Wording`, kind: 'text' },
            { name: t`Posted by`, kind: 'text' },
            t`Amount`,
          ],
          sections,
          foot: null,
          currency: setup.books.currency,
        };
  return (
    <>
      <ReportBar table={table} open={null} isOnDay isCompared={false} />
      <ReportBody
        title={t`Suspense and in transit`}
        words={
          data &&
          t`${counted(items.length, 'item', 'items')} on ${formatLongDate(on)}, all since each account last came to zero`
        }
        error={error}
        isEmpty={data !== undefined && items.length === 0}
        emptyWords={t`Suspense and transit were zero on that day.`}
      >
        {table && (
          <ReportTableView
            table={table}
            current={null}
            opens={({ address }, column) => address !== '' && column === AMOUNT}
            onFigure={({ row }) => void navigate(row.address)}
          />
        )}
      </ReportBody>
    </>
  );
}
