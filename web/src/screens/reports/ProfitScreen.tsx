import { skipToken } from '@reduxjs/toolkit/query';
import { formatMonth } from '@zubrell/core/dates/calendarDate';
import type { ReportRow } from '@zubrell/core/reports/accountTotals';
import { profitAndLoss } from '@zubrell/core/reports/profitAndLoss';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useMemo, useState } from 'react';
import { reportsApi } from '../../api/reports.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Chart } from '../../ui/Chart.tsx';
import { AccountFigureSheet } from './FigureSheet.tsx';
import { monthWithin } from './monthWithin.ts';
import { profitChart } from './profitChart.ts';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { type Figure, ReportTableView } from './ReportTableView.tsx';
import { comparedPeriod, comparisons } from './reportPeriod.ts';
import { useChartColors } from './useChartColors.ts';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

/** Income, costs and what is left, month by month. */
export function ProfitScreen() {
  const { booksId, setup, amount } = useBooks();
  const { period, comparison } = useReportPeriod();
  const other = comparedPeriod(period, comparison);
  const facts = useReportFacts(period);
  const colors = useChartColors();
  const [figure, setFigure] = useState<Figure<ReportRow> | null>(null);
  const { currentData: data, error } = reportsApi.useAccountTotalsQuery({ booksId, ...period });
  const { currentData: compared, error: otherError } = reportsApi.useAccountTotalsQuery(
    other === null ? skipToken : { booksId, ...other },
  );
  const months = data?.months ?? [];
  const isReady = data !== undefined && (other === null || compared !== undefined);
  const report = isReady
    ? profitAndLoss(setup.accounts, {
        totals: data.totals,
        width: months.length,
        compared: other === null ? null : (compared?.totals ?? []),
      })
    : null;
  const names = months.map((month) => formatMonth(month).slice(0, 3));
  const table: ReportTable<ReportRow> | null = report && {
    title: t`Profit and loss`,
    facts,
    columns: [
      ...names,
      t`Total`,
      ...(other === null ? [] : [comparison === 'lastYear' ? t`Last year` : t`Before`, t`Change`]),
    ],
    sections: report.sections,
    foot: report.result,
    currency: setup.books.currency,
  };
  const results = report?.result.amounts ?? [];
  const byMonth = JSON.stringify(results.slice(0, months.length));
  const chart = useMemo(
    () => profitChart(names, JSON.parse(byMonth), { colors, show: amount }),
    [names, byMonth, colors, amount],
  );
  const total = results[months.length] ?? 0;
  const change = results[months.length + 2];
  const shownPeriod = figure && monthWithin(period, months, figure.column);
  return (
    <>
      <ReportBar table={table} open={data?.open ?? null} />
      <ReportBody
        title={t`Profit and loss`}
        words={
          report && (
            <>
              {t`Result ${amount(total)}`}
              {change !== undefined &&
                change !== 0 &&
                (change > 0
                  ? t`, up ${amount(Math.abs(change))} on ${comparisons[comparison]}`
                  : t`, down ${amount(Math.abs(change))} on ${comparisons[comparison]}`)}
            </>
          )
        }
        error={error ?? otherError}
        isEmpty={report?.sections.every(({ rows }) => rows.length <= 1) ?? false}
      >
        {table && months.length > 1 && (
          <Chart
            option={chart}
            height={130}
            label={t`Result by month: ${results
              .slice(0, -1)
              .map((minor) => amount(minor))
              .join(', ')}`}
          />
        )}
        {table && (
          <ReportTableView
            table={table}
            current={figure}
            opens={({ accountId }, column) => accountId !== null && column <= months.length}
            onFigure={setFigure}
          />
        )}
      </ReportBody>
      {figure && shownPeriod && (
        <AccountFigureSheet
          accountId={figure.row.accountId ?? ''}
          period={shownPeriod}
          onClose={() => setFigure(null)}
        />
      )}
    </>
  );
}
