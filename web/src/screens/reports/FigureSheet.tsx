import type { LedgerQuery } from '@zubrell/contract/ledger';
import type { AccountId } from '@zubrell/core/ids';
import { signed } from '@zubrell/core/reports/accountTotals';
import { t } from '@zubrell/core/words/t';
import { Button, CloseButton } from 'react-bootstrap';
import { Link } from 'react-router';
import { ledgerApi } from '../../api/ledger.ts';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { BEGINNING, type Period } from './reportPeriod.ts';

/** Which legs a figure is made of. */
export type FigureFilter = Pick<
  LedgerQuery,
  'accountId' | 'payeeId' | 'costCentreId' | 'jobId' | 'of'
>;

/** What a figure is made of: entries of a period, down to the bank's wording. */
export function FigureSheet({
  title,
  filter,
  sign,
  period,
  onClose,
}: {
  readonly title: string;
  readonly filter: FigureFilter;
  /** −1 where the report shows credits as positive: what is owed, owned by others, or earned. */
  readonly sign: 1 | -1;
  readonly period: Period;
  readonly onClose: () => void;
}) {
  const { booksId, payeeName, accountName, amount } = useBooks();
  const showDate = useShowDate();
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } =
    ledgerApi.useLedgerRowsInfiniteQuery({
      booksId,
      ...filter,
      ...period,
      order: 'newest',
      limit: 100,
    });
  const shown = (minor: number) => amount(signed(sign, minor));
  const isFromStart = period.from === BEGINNING;
  const legs = data?.pages.flatMap(({ items }) => items) ?? [];
  const [first] = data?.pages ?? [];
  const { accountId } = filter;
  return (
    <aside className="figure" aria-label={t`Details of this figure`}>
      <header>
        <h2>{title}</h2>
        <CloseButton aria-label={t`Close details`} onClick={onClose} />
      </header>
      <p className="quiet">
        {isFromStart
          ? t`Up to ${showDate(period.to)}`
          : t`${showDate(period.from)} to ${showDate(period.to)}`}
        {first &&
          t`: ${shown(first.debits + first.credits)} in ${counted(first.count, 'entry', 'entries')}`}
      </p>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what={t`the entries`} />}
      <ul>
        {legs.map((leg) => (
          <li key={`${leg.legId} ${leg.date} ${leg.amount}`}>
            <span>{showDate(leg.date)}</span>
            <Link to={`/books/${booksId}/ledger/${leg.accountId}?entry=${leg.entryId}`}>
              {payeeName(leg.payeeId) || (leg.lineId === null ? t`Entry` : t`No payee`)}
            </Link>
            <span className="num">{shown(leg.amount)}</span>
            {accountId === undefined && <small>{accountName(leg.accountId)}</small>}
            <small className={leg.lineId === null ? 'quiet' : 'mono'}>{leg.text}</small>
          </li>
        ))}
      </ul>
      {hasNextPage && (
        <Button variant="plain" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          {t`Show more entries`}
        </Button>
      )}
      {accountId !== undefined && (
        <Link className="btn btn-plain" to={`/books/${booksId}/ledger/${accountId}`}>
          {t`Open register`}
        </Link>
      )}
    </aside>
  );
}

/** What a figure of one account is made of. */
export function AccountFigureSheet({
  accountId,
  period,
  onClose,
}: {
  readonly accountId: AccountId;
  readonly period: Period;
  readonly onClose: () => void;
}) {
  const { setup, accountName } = useBooks();
  const type = setup.accounts.find(({ id }) => id === accountId)?.type;
  return (
    <FigureSheet
      title={accountName(accountId)}
      filter={{ accountId }}
      sign={type === 'asset' || type === 'expense' ? 1 : -1}
      period={period}
      onClose={onClose}
    />
  );
}
