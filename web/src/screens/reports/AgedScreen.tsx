import type { DocumentSide } from '@zubrell/core/ledger/documents';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { signed } from '@zubrell/core/reports/accountTotals';
import { agedColumn, agedColumns, agedList } from '@zubrell/core/reports/aged';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { CloseButton } from 'react-bootstrap';
import { Link } from 'react-router';
import { reportsApi } from '../../api/reports.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { documentAddress } from '../ledger/documentAddress.ts';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { type Figure, ReportTableView } from './ReportTableView.tsx';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

const TOTAL = agedColumns.length - 1;

/** What customers owe on a day, by how long it is overdue. */
export function ReceivablesScreen() {
  return <AgedScreen key="receivables" side="receivables" title={t`Receivables by age`} />;
}

/** What suppliers are owed on a day, by how long it is overdue. */
export function PayablesScreen() {
  return <AgedScreen key="payables" side="payables" title={t`Payables by age`} />;
}

function AgedScreen({ side, title }: { readonly side: DocumentSide; readonly title: string }) {
  const { booksId, setup, amount, payeeName, accountName } = useBooks();
  const showDate = useShowDate();
  const { period } = useReportPeriod();
  const on = period.to;
  const facts = useReportFacts(period, true);
  const [figure, setFigure] = useState<Figure | null>(null);
  const { currentData: data, error } = reportsApi.useAgedDocumentsQuery({ booksId, side, on });
  const sign = side === 'receivables' ? 1 : -1;
  const report =
    data === undefined
      ? null
      : agedList(data.documents, { on, balance: data.balance - data.valuation, sign, payeeName });
  const table: ReportTable | null = report && {
    title,
    facts,
    columns: agedColumns,
    sections: [{ heading: '', rows: report.rows }],
    foot: report.total,
    currency: setup.books.currency,
  };
  const total = Number(report?.total.amounts[TOTAL] ?? 0);
  const overdue = total - Number(report?.total.amounts[0] ?? 0);
  const shown = (data?.documents ?? []).filter(
    (document) =>
      document.payeeId === figure?.row.key &&
      (figure.column === TOTAL || agedColumn(document, on) === figure.column),
  );
  return (
    <>
      <ReportBar table={table} open={null} isOnDay isCompared={false} />
      <ReportBody
        title={title}
        words={
          data &&
          report && (
            <>
              {t`${amount(total)} on ${formatLongDate(on)}, ${amount(overdue)} of it overdue: the balance of ${accountName(data.accountId)}`}
              {data.valuation !== 0 &&
                t` before ${amount(signed(sign, data.valuation))} of valuation of other currencies`}
            </>
          )
        }
        error={error}
        isEmpty={report !== null && report.rows.length === 0}
        emptyWords={
          side === 'receivables'
            ? t`No customer owed anything on that day.`
            : t`No supplier was owed anything on that day.`
        }
      >
        {table && (
          <ReportTableView
            table={table}
            current={figure}
            opens={({ key }) => (data?.documents ?? []).some(({ payeeId }) => payeeId === key)}
            onFigure={setFigure}
          />
        )}
      </ReportBody>
      {figure && (
        <aside className="figure" aria-label={t`Details of this figure`}>
          <header>
            <h2>{figure.row.label}</h2>
            <CloseButton aria-label={t`Close details`} onClick={() => setFigure(null)} />
          </header>
          <p className="quiet">{agedColumns[figure.column]}</p>
          {side === 'receivables' && (
            <p>
              <Link to={`/books/${booksId}/reports/customer?payee=${figure.row.key}&to=${on}`}>
                {t`Statement of account`}
              </Link>
            </p>
          )}
          <ul>
            {shown.map((document) => (
              <li key={document.id}>
                <span>{showDate(document.date)}</span>
                <Link to={documentAddress(booksId, document)}>{candidateName(document)}</Link>
                <span className="num">{amount(signed(sign, document.open))}</span>
                {document.currency !== null && (
                  <small className="quiet">
                    {amount(signed(sign, document.original ?? 0), { currency: document.currency })}
                  </small>
                )}
                {document.dueDate && (
                  <small className="quiet">{t`due ${showDate(document.dueDate)}`}</small>
                )}
              </li>
            ))}
          </ul>
        </aside>
      )}
    </>
  );
}
