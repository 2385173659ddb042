import { skipToken } from '@reduxjs/toolkit/query';
import { addDays } from '@zubrell/core/dates/calendarDate';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useEffect } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { ledgerApi } from '../../api/ledger.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Combobox } from '../../ui/Combobox.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import type { LedgerListRow } from './ledgerList.ts';
import { payeeAccount } from './payeeAccount.ts';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { ReportTableView } from './ReportTableView.tsx';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

/** So many postings come at once; a balance is shown when all of them are here. */
const AT_ONCE = 2_000;

/** What one customer was invoiced and has paid in a period, with what is left after each: a statement of account. */
export function PayeeAccountScreen() {
  const { booksId, setup, amount } = useBooks();
  const { period, set } = useReportPeriod();
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const facts = useReportFacts(period);
  const payeeId = params.get('payee');
  const payee = setup.payees.find(({ id }) => id === payeeId);
  const accountId = setup.accounts.find(({ role }) => role === 'receivables')?.id;
  const wanted = payee && accountId ? { booksId, accountId, payeeId: payee.id } : null;
  const own = ledgerApi.useLedgerRowsInfiniteQuery(
    wanted ? { ...wanted, ...period, order: 'date', limit: AT_ONCE } : skipToken,
  );
  const before = ledgerApi.useLedgerRowsInfiniteQuery(
    wanted ? { ...wanted, to: addDays(period.from, -1), order: 'newest', limit: 1 } : skipToken,
  );
  const { hasNextPage, isFetching, isError, fetchNextPage } = own;
  useEffect(() => {
    if (hasNextPage && !isFetching && !isError) void fetchNextPage();
  }, [hasNextPage, isFetching, isError, fetchNextPage]);
  const rows = hasNextPage ? undefined : own.currentData?.pages.flatMap(({ items }) => items);
  const [earlier] = before.currentData?.pages ?? [];
  const report = rows && earlier ? payeeAccount(rows, earlier.debits + earlier.credits) : null;
  const table: ReportTable<LedgerListRow> | null =
    report && payee
      ? {
          title: t`Statement of account`,
          facts: [...facts, payee.name, ...payee.address.split('\n').filter(Boolean)],
          ...report,
          currency: setup.books.currency,
        }
      : null;
  const left = report?.left ?? 0;
  return (
    <>
      <ReportBar table={table} open={null} isCompared={false} />
      <ReportBody
        title={payee ? t`Statement of account, ${payee.name}` : t`Statement of account`}
        words={
          payee === undefined
            ? t`For one customer`
            : report &&
              t`${amount(left)} ${left < 0 ? t`in credit` : t`owed`} on ${formatLongDate(period.to)}`
        }
        error={own.error ?? before.error}
        isEmpty={false}
      >
        <div className="payee-choice">
          <Combobox
            label={t`Customer`}
            placeholder={t`Customer`}
            choices={setup.payees
              .filter(({ mergedInto, kind }) => mergedInto === null && kind === 'customer')
              .map(({ id, name }) => ({ id, label: name }))}
            value={payeeId}
            onChange={(id) => set({ payee: id ?? '' })}
          />
        </div>
        {payee === undefined && (
          <EmptyState title={t`Choose a customer`}>
            <p>{t`Lists the invoices and payments of the period, with the balance after each.`}</p>
          </EmptyState>
        )}
        {table && (
          <ReportTableView
            table={table}
            current={null}
            opens={({ address }, column) => address !== '' && column === table.columns.length - 1}
            onFigure={({ row }) => void navigate(`/books/${booksId}${row.address}`)}
          />
        )}
      </ReportBody>
    </>
  );
}
