import { skipToken } from '@reduxjs/toolkit/query';
import { yearFrom } from '@zubrell/core/dates/booksYear';
import type { ReportRow } from '@zubrell/core/reports/accountTotals';
import { balanceSheet } from '@zubrell/core/reports/balanceSheet';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { reportsApi } from '../../api/reports.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { AccountFigureSheet } from './FigureSheet.tsx';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { type Figure, ReportTableView } from './ReportTableView.tsx';
import { BEGINNING, comparedPeriod, type Period } from './reportPeriod.ts';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

/** What the business owns and owes on a day. */
export function BalanceSheetScreen() {
  const { booksId, setup, amount } = useBooks();
  const showDate = useShowDate();
  const { period, comparison } = useReportPeriod();
  const facts = useReportFacts(period, true);
  const [figure, setFigure] = useState<Figure<ReportRow> | null>(null);
  // The year of the books up to a day.
  const yearTo = (to: string): Period => ({ from: yearFrom(to, setup.books.yearBegins), to });
  const own = yearTo(period.to);
  const otherDay = comparedPeriod(period, comparison)?.to ?? null;
  const other = otherDay === null ? null : yearTo(otherDay);
  const { currentData: data, error } = reportsApi.useAccountTotalsQuery({ booksId, ...own });
  const { currentData: compared, error: otherError } = reportsApi.useAccountTotalsQuery(
    other === null ? skipToken : { booksId, ...other },
  );
  const isReady = data !== undefined && (other === null || compared !== undefined);
  const report = isReady
    ? balanceSheet(setup.accounts, [data.totals, ...(compared && other ? [compared.totals] : [])])
    : null;
  const table: ReportTable<ReportRow> | null = report && {
    title: t`Balance sheet`,
    facts,
    columns: [showDate(period.to), ...(otherDay === null ? [] : [showDate(otherDay)])],
    sections: report.sections,
    foot: report.against,
    currency: setup.books.currency,
  };
  const assets = report?.sections[0].rows.at(-1)?.amounts[0] ?? 0;
  return (
    <>
      <ReportBar table={table} open={data?.open ?? null} isOnDay />
      <ReportBody
        title={t`Balance sheet`}
        words={
          report &&
          t`${amount(assets)} of assets on ${formatLongDate(period.to)}, the same as liabilities and equity`
        }
        error={error ?? otherError}
        isEmpty={report?.sections.every(({ rows }) => rows.length <= 1) ?? false}
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
          period={{ from: BEGINNING, to: (figure.column === 0 ? own : (other ?? own)).to }}
          onClose={() => setFigure(null)}
        />
      )}
    </>
  );
}
