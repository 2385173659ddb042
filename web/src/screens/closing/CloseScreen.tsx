import type { MonthClosing } from '@zubrell/contract/closing';
import { formatMonth, lastDayOf } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { Link, useParams, useSearchParams } from 'react-router';
import { closingApi } from '../../api/closing.ts';
import { formatCount } from '../../app/formats.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { leftFor, type WayBack } from '../../app/wayBackSlice.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { stateWords } from '../statements/statementWords.ts';
import { checkNames, checkWay, checkWords } from './checkWords.ts';
import './closing.scss';
import { SampleDialog } from './SampleDialog.tsx';
import { SignOff } from './SignOff.tsx';

/** Closing a month: what stands in the way, each with the way there, and who signed it off. */
export function CloseScreen() {
  const { booksId } = useBooks();
  const { month = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const { data, error } = closingApi.useMonthClosingQuery(
    { booksId, month },
    { refetchOnMountOrArgChange: true },
  );
  if (error && !data) {
    return (
      <main className="page">
        <ErrorNote error={error} />
      </main>
    );
  }
  if (!data) return <Waiting what={t`the month`} />;
  return (
    <main className="close-month">
      <Head closing={data} />
      <div className="close-lists">
        <Accounts closing={data} />
        <Checks closing={data} />
      </div>
      <SignOff key={data.note} closing={data} />
      {params.get('sample') === 'open' && (
        <SampleDialog month={month} onClose={() => setParams({}, { replace: true })} />
      )}
    </main>
  );
}

function Head({ closing }: { readonly closing: MonthClosing }) {
  const { booksId, amount } = useBooks();
  const { month, lineCount, openCount, accounts, result, months } = closing;
  const agreed = accounts.filter(({ isAgreed }) => isAgreed).length;
  return (
    <header className="close-head">
      <h1>{t`Close ${formatMonth(month)}`}</h1>
      <div>
        <small>{t`Lines`}</small>
        <b>{t`${formatCount(lineCount - openCount)} decided, ${openCount === 0 ? t`none` : formatCount(openCount)} open`}</b>
      </div>
      <div>
        <small>{t`Statements agreed`}</small>
        <b>{t`${agreed} of ${accounts.length}`}</b>
      </div>
      <div>
        <small>{t`Result of the month`}</small>
        <b>{amount(result, { plus: true })}</b>
      </div>
      <nav aria-label={t`Months`}>
        {months.map(({ month: each, isClosed }) => (
          <Link
            key={each}
            to={`/books/${booksId}/close/${each}`}
            className={isClosed ? 'closed' : ''}
            aria-current={each === month ? 'page' : undefined}
            title={`${formatMonth(each)}, ${isClosed ? t`closed` : t`open`}`}
          >
            {formatMonth(each).slice(0, 3)}
          </Link>
        ))}
      </nav>
    </header>
  );
}

function Dot({ isFine }: { readonly isFine: boolean }) {
  return (
    <span
      className={`dot ${isFine ? 'fine' : ''}`}
      role="img"
      aria-label={isFine ? t`settled` : t`open`}
    />
  );
}

function Accounts({ closing }: { readonly closing: MonthClosing }) {
  const { booksId, bankAccountName, amount, currencyOf } = useBooks();
  const showDate = useShowDate();
  const dispatch = useAppDispatch();
  const here = useHere(closing.month);
  return (
    <section aria-label={t`Bank accounts`}>
      <h2>{t`Bank accounts`}</h2>
      <ul>
        {closing.accounts.map(({ bankAccountId, statement, isAgreed }) => {
          const isOff = statement !== null && !isAgreed && (statement.off ?? 0) !== 0;
          return (
            <li key={bankAccountId} className={isAgreed ? 'fine' : ''}>
              <Dot isFine={isAgreed} />
              <b>{bankAccountName(bankAccountId)}</b>
              <span className={isAgreed ? '' : 'doubt'}>
                {statement === null
                  ? t`no statement yet`
                  : t`statement to ${showDate(statement.to)} ${stateWords(statement)}`}
              </span>
              <span className={`num ${isOff ? 'trouble' : ''}`}>
                {statement &&
                  amount(isOff ? Math.abs(statement.off ?? 0) : statement.addsUp, {
                    currency: currencyOf(bankAccountId),
                  })}
              </span>
              <Link
                className={isAgreed ? '' : 'btn btn-plain btn-sm'}
                onClick={() => dispatch(leftFor(here))}
                to={
                  statement === null
                    ? `/books/${booksId}/statements`
                    : `/books/${booksId}/statements/${bankAccountId}/${statement.to}`
                }
              >
                {isOff ? t`Find the cause` : isAgreed ? t`Open statement` : t`Agree statement`}
              </Link>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** The way back to this screen, for whoever leaves it to settle something. */
function useHere(month: string): WayBack {
  const { booksId } = useBooks();
  return { to: `/books/${booksId}/close/${month}`, name: t`Close ${formatMonth(month)}` };
}

function Checks({ closing }: { readonly closing: MonthClosing }) {
  const { booksId, amount } = useBooks();
  const showDate = useShowDate();
  const dispatch = useAppDispatch();
  const here = useHere(closing.month);
  const end = lastDayOf(closing.month);
  return (
    <section aria-label={t`Books`}>
      <h2>{t`Books`}</h2>
      <ul>
        {closing.checks.map((check) => {
          const isFine = check.count === 0;
          const way = checkWay(check, booksId, closing.month);
          return (
            <li key={check.kind} className={isFine ? 'fine' : ''}>
              <Dot isFine={isFine} />
              <b>{checkNames[check.kind]}</b>
              <span className={isFine ? '' : 'doubt'}>{checkWords(check, end, showDate)}</span>
              <span className="num">
                {!isFine && check.amount !== null && amount(Math.abs(check.amount))}
              </span>
              {!isFine && (
                <Link
                  className="btn btn-plain btn-sm"
                  to={way.to}
                  onClick={() => dispatch(leftFor(here))}
                >
                  {way.label}
                </Link>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
