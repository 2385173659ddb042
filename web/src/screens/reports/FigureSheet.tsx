import type { AccountId } from '@zubrell/core/ids';
import { Button, CloseButton } from 'react-bootstrap';
import { Link } from 'react-router';
import { reportsApi } from '../../api/reports.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { BEGINNING, type Period } from './reportPeriod.ts';

/** What a figure is made of: entries of an account in a period, down to the bank's wording. */
export function FigureSheet({
  accountId,
  period,
  onClose,
}: {
  readonly accountId: AccountId;
  readonly period: Period;
  readonly onClose: () => void;
}) {
  const { booksId, setup, accountName, payeeName, amount } = useBooks();
  const showDate = useShowDate();
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } =
    reportsApi.useFigureLegsInfiniteQuery({ booksId, accountId, ...period });
  const type = setup.accounts.find(({ id }) => id === accountId)?.type;
  // As the report has it: what is owed, owned by others, or earned, is positive.
  const sign = type === 'asset' || type === 'expense' ? 1 : -1;
  const shown = (minor: number) => amount(minor === 0 ? 0 : sign * minor);
  const isFromStart = period.from === BEGINNING;
  const legs = data?.pages.flatMap(({ items }) => items) ?? [];
  const [first] = data?.pages ?? [];
  return (
    <aside className="figure" aria-label="What the figure is made of">
      <header>
        <h2>{accountName(accountId)}</h2>
        <CloseButton aria-label="Close the figure" onClick={onClose} />
      </header>
      <p className="quiet">
        {isFromStart
          ? `Up to ${showDate(period.to)}`
          : `${showDate(period.from)} to ${showDate(period.to)}`}
        {first &&
          `: ${shown(first.amount)} in ${first.count === 1 ? '1 entry' : `${first.count} entries`}`}
      </p>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what="the entries" />}
      <ul>
        {legs.map((leg) => (
          <li key={`${leg.legId} ${leg.date} ${leg.amount}`}>
            <span>{showDate(leg.date)}</span>
            <Link to={`/books/${booksId}/ledger/${accountId}?entry=${leg.entryId}`}>
              {payeeName(leg.payeeId) || (leg.lineId === null ? 'Entry' : 'No payee')}
            </Link>
            <span className="num">{shown(leg.amount)}</span>
            <small className={leg.lineId === null ? 'quiet' : 'mono'}>{leg.text}</small>
          </li>
        ))}
      </ul>
      {hasNextPage && (
        <Button variant="plain" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          Show more entries
        </Button>
      )}
      <Link className="btn btn-plain" to={`/books/${booksId}/ledger/${accountId}`}>
        Open register
      </Link>
    </aside>
  );
}
