import { formatMonth } from '@zubrell/core/dates/calendarDate';
import type { ReportRow } from '@zubrell/core/reports/accountTotals';
import { cashReport } from '@zubrell/core/reports/cashReport';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useMemo, useState } from 'react';
import { reportsApi } from '../../api/reports.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Chart } from '../../ui/Chart.tsx';
import { cashChart } from './cashChart.ts';
import { AccountFigureSheet } from './FigureSheet.tsx';
import { monthWithin } from './monthWithin.ts';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { type Figure, ReportTableView } from './ReportTableView.tsx';
import { BEGINNING } from './reportPeriod.ts';
import { useChartColors } from './useChartColors.ts';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

/** Money in and out by month, and what stood on the bank accounts at the end of each. */
export function CashScreen() {
  const { booksId, setup, amount, accountName } = useBooks();
  const { period } = useReportPeriod();
  const facts = useReportFacts(period);
  const colors = useChartColors();
  const [figure, setFigure] = useState<Figure<ReportRow> | null>(null);
  const { currentData: data, error } = reportsApi.useCashFlowQuery({ booksId, ...period });
  const months = data?.months ?? [];
  const report = data ? cashReport(data.accounts, { width: months.length, accountName }) : null;
  const names = months.map((month) => formatMonth(month).slice(0, 3));
  const table: ReportTable<ReportRow> | null = report && {
    title: t`Cash`,
    facts,
    columns: names,
    sections: report.sections,
    foot: report.total,
    currency: setup.books.currency,
  };
  const [moneyIn, moneyOut] = report?.sections[0].rows ?? [];
  const figures = JSON.stringify([moneyIn?.amounts, moneyOut?.amounts, report?.total.amounts]);
  const chart = useMemo(
    () => cashChart(names, JSON.parse(figures), { colors, show: amount }),
    [names, figures, colors, amount],
  );
  const end = report?.total.amounts.at(-1) ?? 0;
  const shown = figure && monthWithin(period, months, figure.column);
  return (
    <>
      <ReportBar table={table} open={data?.open ?? null} isCompared={false} />
      <ReportBody
        title={t`Cash`}
        words={report && <>{t`${amount(end)} on all bank accounts at the end`}</>}
        error={error}
        isEmpty={data !== undefined && data.accounts.length === 0}
      >
        {table && months.length > 1 && (
          <Chart
            option={chart}
            height={150}
            label={t`Money in, money out, and the balance of all bank accounts at the end of each month: ${(
              report?.total.amounts ?? []
            )
              .map((minor) => amount(minor))
              .join(', ')}`}
          />
        )}
        {table && (
          <ReportTableView
            table={table}
            current={figure}
            opens={({ accountId }) => accountId !== null}
            onFigure={setFigure}
          />
        )}
      </ReportBody>
      {figure && shown && (
        <AccountFigureSheet
          accountId={figure.row.accountId ?? ''}
          period={{ from: BEGINNING, to: shown.to }}
          onClose={() => setFigure(null)}
        />
      )}
    </>
  );
}
