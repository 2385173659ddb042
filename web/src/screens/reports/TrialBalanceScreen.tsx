import type { ReportRow } from '@zubrell/core/reports/accountTotals';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { trialBalance } from '@zubrell/core/reports/trialBalance';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { reportsApi } from '../../api/reports.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { AccountFigureSheet } from './FigureSheet.tsx';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { type Figure, ReportTableView } from './ReportTableView.tsx';
import { BEGINNING } from './reportPeriod.ts';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

/** The balances of all accounts on a day, on their sides. */
export function TrialBalanceScreen() {
  const { booksId, setup, amount } = useBooks();
  const { period } = useReportPeriod();
  const facts = useReportFacts(period, true);
  const [figure, setFigure] = useState<Figure<ReportRow> | null>(null);
  const { currentData: data, error } = reportsApi.useAccountTotalsQuery({ booksId, ...period });
  const report = data ? trialBalance(setup.accounts, data.totals) : null;
  const table: ReportTable<ReportRow> | null = report && {
    title: t`Trial balance`,
    facts,
    columns: [t`Debit`, t`Credit`],
    sections: [{ heading: '', rows: report.rows }],
    foot: report.total,
    currency: setup.books.currency,
  };
  return (
    <>
      <ReportBar table={table} open={data?.open ?? null} isOnDay isCompared={false} />
      <ReportBody
        title={t`Trial balance`}
        words={
          report &&
          t`${amount(report.total.amounts[0] ?? 0)} on both sides on ${formatLongDate(period.to)}`
        }
        error={error}
        isEmpty={report !== null && report.rows.length === 0}
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
          period={{ from: BEGINNING, to: period.to }}
          onClose={() => setFigure(null)}
        />
      )}
    </>
  );
}
