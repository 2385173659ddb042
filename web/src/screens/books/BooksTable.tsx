import type { BooksOverview, BooksSummary } from '@zubrell/contract/overview';
import { daysBetween, formatMonth } from '@zubrell/core/dates/calendarDate';
import { needsSomebody } from '@zubrell/core/overview/nextInBooks';
import { t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { counted, formatAmount } from '../../app/formats.ts';
import { useShowDate, useToday } from '../../app/useToday.ts';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { roleNames } from '../settings/roleWords.ts';
import { BooksMenu } from './BooksMenu.tsx';
import { nextOf } from './booksShown.ts';

/** After so many days without an answer a question is long out. */
const LONG_ASKED = 14;

/** One row for each set of books: what is left in it, and what is next. */
export function BooksTable({ books }: { readonly books: readonly BooksOverview[] }) {
  const today = useToday();
  const columns: readonly Column<BooksOverview>[] = [
    {
      id: 'name',
      head: t`Books`,
      className: 'books-name',
      cell: ({ id, name, currency, role }) => (
        <>
          <Link to={`/books/${id}/${role === 'client' ? 'questions' : 'board'}`}>{name}</Link>
          <small className="quiet">
            {currency} · {roleNames[role]}
          </small>
        </>
      ),
    },
    {
      id: 'open',
      head: t`Open lines`,
      className: 'open-lines',
      cell: ({ summary }) => summary && <OpenLines summary={summary} />,
    },
    {
      id: 'asked',
      head: t`Asked`,
      className: 'asked-out',
      cell: ({ summary }) => summary && <Asked summary={summary} today={today} />,
    },
    {
      id: 'unexplained',
      head: t`Unexplained`,
      className: 'num',
      cell: ({ summary, currency }) =>
        summary && (
          <span className={summary.unexplained === 0 ? '' : 'trouble'}>
            {formatAmount(Math.abs(summary.unexplained), currency)}
          </span>
        ),
    },
    {
      id: 'feeds',
      head: t`Feeds`,
      className: 'feeds',
      cell: ({ summary }) => summary && <Feeds summary={summary} today={today} />,
    },
    {
      id: 'months',
      head: t`Last six months`,
      className: 'months',
      cell: ({ id, summary }) => summary && <Months id={id} summary={summary} />,
    },
    {
      id: 'next',
      head: t`Next`,
      className: 'next',
      cell: (row) => <Next books={row} today={today} />,
    },
    { id: 'menu', head: '', className: 'menu', cell: (row) => <BooksMenu books={row} /> },
  ];
  return (
    <DataTable
      className="books-table"
      rows={books}
      columns={columns}
      rowKey={({ id }) => id}
      rowClass={(row) => (needsSomebody(nextOf(row, today) ?? 'nothing') ? 'needs-you' : '')}
    />
  );
}

function OpenLines({ summary: { open, ready, check } }: { readonly summary: BooksSummary }) {
  const share = (count: number) => ({ width: `${(100 * count) / Math.max(open, 1)}%` });
  const others = open - ready - check;
  return (
    <>
      <span className="bar" aria-hidden>
        {open > 0 && (
          <>
            <i className="ready" style={share(ready)} />
            <i className="check" style={share(check)} />
            <i className="other" style={share(others)} />
          </>
        )}
      </span>
      <small className="quiet">
        {open === 0 ? t`none open` : t`${open} open, ${ready} ready, ${check} to check`}
      </small>
    </>
  );
}

function Asked({ summary, today }: { readonly summary: BooksSummary; readonly today: string }) {
  const { asked, oldestAsked } = summary;
  const days = oldestAsked === null ? 0 : daysBetween(oldestAsked, today);
  return (
    <>
      {asked}
      {oldestAsked !== null && (
        <small className={days >= LONG_ASKED ? 'doubt' : 'quiet'}>
          {t`oldest ${counted(days, 'day', 'days')}`}
        </small>
      )}
    </>
  );
}

function Feeds({ summary, today }: { readonly summary: BooksSummary; readonly today: string }) {
  const showDate = useShowDate();
  const { troubledFeed, feedCount, lastFetch } = summary;
  if (troubledFeed !== null) {
    return (
      <>
        <b className="doubt">{t`no lines`}</b>
        <small className="doubt">{troubledFeed}</small>
      </>
    );
  }
  if (feedCount === 0) return <span className="quiet">{t`files only`}</span>;
  if (lastFetch === null) return <span className="quiet">{t`never fetched`}</span>;
  return (
    <span className="quiet">
      {lastFetch === today ? t`fetched today` : t`fetched ${showDate(lastFetch)}`}
    </span>
  );
}

const MONTH_STATES = { closed: t`closed`, open: t`not closed`, none: t`no lines` } as const;

function Months({ id, summary }: { readonly id: string; readonly summary: BooksSummary }) {
  return (
    <span className="six-months">
      {summary.months.map(({ month, state }) => (
        <Link
          key={month}
          to={`/books/${id}/close/${month}`}
          className={`is-${state}`}
          title={`${formatMonth(month)}: ${MONTH_STATES[state]}`}
          aria-label={`${formatMonth(month)}: ${MONTH_STATES[state]}`}
        />
      ))}
    </span>
  );
}

/** What is next in books, and the one press that goes on there. */
function Next({ books, today }: { readonly books: BooksOverview; readonly today: string }) {
  const { id, summary, role } = books;
  const next = nextOf(books, today);
  const at = (place: string) => `/books/${id}/${place}`;
  if (role === 'client') return <Link to={at('questions')}>{t`Answer questions`}</Link>;
  if (summary === null || next === null)
    return <span className="quiet">{t`not calculated yet`}</span>;
  const { askedOf, ready, openMonth } = summary;
  const way = (place: string, label: string, isMain = false) => (
    <Link className={`btn btn-sm ${isMain ? 'btn-main' : 'btn-plain'}`} to={at(place)}>
      {label}
    </Link>
  );
  switch (next) {
    case 'signIn':
      return way('intake', t`Sign in at the bank`);
    case 'findCause':
      return way('statements', t`Find the cause`);
    case 'remind':
      return way('desk?lane=asked', t`Remind ${askedOf ?? t`them`}`);
    case 'postReady':
      return way('board', t`Post ${ready} ready lines …`, true);
    case 'goOn':
      return way('desk', t`Continue on the Desk`);
    case 'closeMonth':
      return way(`close/${openMonth}`, t`Close ${formatMonth(openMonth ?? '')}`);
    case 'nothing':
      return <span className="quiet">{t`nothing until new lines arrive`}</span>;
  }
}
