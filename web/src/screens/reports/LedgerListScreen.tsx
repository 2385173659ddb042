import type { LedgerQuery } from '@zubrell/contract/ledger';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { ledgerApi } from '../../api/ledger.ts';
import { formatCount } from '../../app/formats.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { type LedgerListRow, ledgerList } from './ledgerList.ts';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { ReportTableView } from './ReportTableView.tsx';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

const PAGE = 200;
/** A file is read in larger parts than the screen. */
const FILE_PAGE = 2_000;

/** Every account's entries in the period, with its balance after each. */
export function GeneralLedgerScreen() {
  return <LedgerListScreen key="account" order="account" title={t`General ledger`} />;
}

/** Every entry of the period as it happened, leg by leg. */
export function JournalScreen() {
  return <LedgerListScreen key="date" order="date" title={t`Journal`} />;
}

function LedgerListScreen({
  order,
  title,
}: {
  readonly order: Extract<LedgerQuery['order'], 'account' | 'date'>;
  readonly title: string;
}) {
  const { booksId, setup, accountName, payeeName, amount } = useBooks();
  const { period } = useReportPeriod();
  const facts = useReportFacts(period);
  const navigate = useNavigate();
  const query = { booksId, order, ...period } as const;
  const { currentData, error, hasNextPage, fetchNextPage, isFetching } =
    ledgerApi.useLedgerRowsInfiniteQuery({ ...query, limit: PAGE });
  const dispatch = useAppDispatch();
  const [first] = currentData?.pages ?? [];
  const names = { accountName, payeeName, order };
  const tableOf = (pages: readonly (typeof first)[]): ReportTable<LedgerListRow> => ({
    title,
    facts,
    currency: setup.books.currency,
    ...ledgerList(
      pages.flatMap((page) => page?.items ?? []),
      names,
    ),
    foot: null,
  });
  const table = currentData ? tableOf(currentData.pages) : null;

  async function loadWhole(): Promise<ReportTable> {
    const { initiate } = ledgerApi.endpoints.ledgerRows;
    const wanted = { ...query, limit: FILE_PAGE };
    // Read anew from the first page on: what is saved is all of one moment, as nearly as can be.
    let answer = await dispatch(initiate(wanted, { forceRefetch: true })).unwrap();
    while (answer.pages.at(-1)?.next) {
      answer = await dispatch(initiate(wanted, { direction: 'forward' })).unwrap();
    }
    return tableOf(answer.pages);
  }

  const shownCount = table?.sections.reduce((sum, { rows }) => sum + rows.length, 0) ?? 0;
  return (
    <>
      <ReportBar table={table} open={null} isCompared={false} loadWhole={loadWhole} />
      <ReportBody
        title={title}
        words={
          first &&
          t`${formatCount(first.count)} postings, debits ${amount(first.debits)}, credits ${amount(-first.credits)}`
        }
        error={error}
        isEmpty={first?.count === 0}
      >
        {table && (
          <ReportTableView
            table={table}
            current={null}
            opens={({ address }, column) => address !== '' && column === table.columns.length - 1}
            onFigure={({ row }) => void navigate(`/books/${booksId}${row.address}`)}
          />
        )}
        {hasNextPage && first && (
          <Button variant="plain" disabled={isFetching} onClick={() => void fetchNextPage()}>
            {t`Show more postings, ${formatCount(shownCount)} of ${formatCount(first.count)} shown`}
          </Button>
        )}
      </ReportBody>
    </>
  );
}
