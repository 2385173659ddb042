import type { ReportRow } from '@zubrell/core/reports/accountTotals';
import { ownersColumns, ownersMoney } from '@zubrell/core/reports/ownersMoney';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { reportsApi } from '../../api/reports.ts';
import { useBooks } from '../../app/useBooks.ts';
import { AccountFigureSheet } from './FigureSheet.tsx';
import { ownersAccounts } from './ownersAccounts.ts';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { type Figure, ReportTableView } from './ReportTableView.tsx';
import { daysOfColumn } from './reportPeriod.ts';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

/** What each owner put in and took out in a period, and has in the business. */
export function OwnersScreen() {
  const { booksId, setup, amount, accountName } = useBooks();
  const { period } = useReportPeriod();
  const facts = useReportFacts(period);
  const [figure, setFigure] = useState<Figure<ReportRow> | null>(null);
  const { currentData: data, error } = reportsApi.useAccountTotalsQuery({ booksId, ...period });
  const report = data ? ownersMoney(ownersAccounts(setup), data.totals, accountName) : null;
  const table: ReportTable<ReportRow> | null = report && {
    title: t`Owners’ money`,
    facts,
    columns: ownersColumns,
    sections: report.sections,
    foot: report.total,
    currency: setup.books.currency,
  };
  return (
    <>
      <ReportBar table={table} open={data?.open ?? null} isCompared={false} />
      <ReportBody
        title={t`Owners’ money`}
        words={
          report &&
          t`${amount(report.total.amounts[1] ?? 0)} put in, ${amount(-(report.total.amounts[2] ?? 0))} taken out, without the profit`
        }
        error={error}
        isEmpty={report !== null && report.sections.length === 0}
        emptyWords={t`No owner has put anything in or taken anything out up to that day. Under Ledger, Payees, each owner can have accounts of their own.`}
      >
        {table && (
          <ReportTableView
            table={table}
            current={figure}
            opens={({ accountId }) => accountId !== null}
            onFigure={setFigure}
          />
        )}
      </ReportBody>
      {figure && (
        <AccountFigureSheet
          accountId={figure.row.accountId ?? ''}
          period={daysOfColumn(figure.column, period)}
          onClose={() => setFigure(null)}
        />
      )}
    </>
  );
}
