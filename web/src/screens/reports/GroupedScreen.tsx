import { skipToken } from '@reduxjs/toolkit/query';
import {
  type Grouping,
  groupedColumns,
  groupedReport,
  NO_GROUP,
} from '@zubrell/core/reports/grouped';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { reportsApi } from '../../api/reports.ts';
import { useBooks } from '../../app/useBooks.ts';
import { type FigureFilter, FigureSheet } from './FigureSheet.tsx';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { type Figure, ReportTableView } from './ReportTableView.tsx';
import { comparedPeriod } from './reportPeriod.ts';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

const TITLES: Readonly<Record<Grouping, string>> = {
  payee: t`By payee`,
  costCentre: t`By cost centre`,
  job: t`By job`,
};
const NONE: Readonly<Record<Grouping, string>> = {
  payee: t`No payee`,
  costCentre: t`No cost centre`,
  job: t`No job`,
};

/** What the first columns are made of; the others are sums of them. */
const OF = ['income', 'expense', null, 'other'] as const;

/** Income, costs and result by payee. */
export function ByPayeeScreen() {
  return <GroupedScreen key="payee" by="payee" />;
}

/** Income, costs and result by cost centre. */
export function ByCostCentreScreen() {
  return <GroupedScreen key="costCentre" by="costCentre" />;
}

/** Income, costs and result by job. */
export function ByJobScreen() {
  return <GroupedScreen key="job" by="job" />;
}

function GroupedScreen({ by }: { readonly by: Grouping }) {
  const { booksId, setup, amount, payeeName } = useBooks();
  const { period, comparison } = useReportPeriod();
  const other = comparedPeriod(period, comparison);
  const facts = useReportFacts(period);
  const [figure, setFigure] = useState<Figure | null>(null);
  const { currentData: data, error } = reportsApi.useGroupedTotalsQuery({ booksId, by, ...period });
  const { currentData: then, error: otherError } = reportsApi.useGroupedTotalsQuery(
    other === null ? skipToken : { booksId, by, ...other },
  );
  const isReady = data !== undefined && (other === null || then !== undefined);
  const objectName = (id: string) =>
    setup.costObjects.find((each) => each.id === id)?.name ?? t`Removed`;
  const report = isReady
    ? groupedReport(data.totals, {
        nameOf: by === 'payee' ? payeeName : objectName,
        noneName: NONE[by],
        compared: other === null ? null : (then?.totals ?? []),
      })
    : null;
  const result = comparison === 'lastYear' ? t`Result last year` : t`Result before`;
  const table: ReportTable | null = report && {
    title: TITLES[by],
    facts,
    columns: [...groupedColumns, ...(other === null ? [] : [result, t`Change`])],
    sections: [{ heading: '', rows: report.rows }],
    foot: report.total,
    currency: setup.books.currency,
  };
  const of = figure && OF[figure.column];
  return (
    <>
      <ReportBar table={table} open={data?.open ?? null} />
      <ReportBody
        title={TITLES[by]}
        words={report && <>{t`Result ${amount(Number(report.total.amounts[2] ?? 0))}`}</>}
        error={error ?? otherError}
        isEmpty={report !== null && report.rows.length === 0}
      >
        {table && (
          <ReportTableView
            table={table}
            current={figure}
            opens={({ key }, column) => key !== 'total' && (OF[column] ?? null) !== null}
            onFigure={setFigure}
          />
        )}
      </ReportBody>
      {figure && of && (
        <FigureSheet
          key={figure.row.key}
          title={figure.row.label}
          filter={{ ...filterOf(by, figure.row.key), of }}
          sign={of === 'income' ? -1 : 1}
          period={period}
          onClose={() => setFigure(null)}
        />
      )}
    </>
  );
}

function filterOf(by: Grouping, key: string): FigureFilter {
  const id = key === NO_GROUP ? ('none' as const) : key;
  if (by === 'payee') return { payeeId: id };
  return by === 'job' ? { jobId: id } : { costCentreId: id };
}
