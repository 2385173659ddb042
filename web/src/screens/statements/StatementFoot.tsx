import type { Statement } from '@zubrell/contract/statements';
import { hasLeave } from '@zubrell/core/people/leaves';
import { t } from '@zubrell/core/words/t';
import { useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { statementsApi } from '../../api/statements.ts';
import { counted, formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { ReopenDialog } from './ReopenDialog.tsx';
import { useStatementRows } from './useStatementRows.ts';

/** Agreeing a statement, opening it again, and going on. */
export function StatementFoot({ statement }: { readonly statement: Statement }) {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const [agree, { isLoading }] = statementsApi.useAgreeStatementMutation();
  const [isReopening, setIsReopening] = useState(false);
  const { print, isPreparing } = usePrint(statement);
  const { bankAccountId, to, state, hindrances, seenStep, openCount, before, after } = statement;
  const { leaves, role } = setup.books;
  const isAgreed = state === 'agreed';
  const report = `/api/books/${booksId}/bank-accounts/${bankAccountId}/statements/${to}/report`;
  const way = (day: string) => `/books/${booksId}/statements/${bankAccountId}/${day}`;
  return (
    <footer className="statement-foot">
      <span className="quiet">
        {isAgreed
          ? t`The account is closed up to ${formatLongDate(to)}.`
          : t`Agreeing closes the account up to ${formatLongDate(to)}, once it adds up and no line is open.`}
      </span>
      <span className="ways">
        {before && (
          <Link to={way(before.to)} className="btn btn-plain">
            {t`Previous`}
          </Link>
        )}
        {after && (
          <Link to={way(after)} className="btn btn-plain">
            {t`Next`}
          </Link>
        )}
        {openCount > 0 && !isAgreed && (
          <Link to={`/books/${booksId}/desk?account=${bankAccountId}`} className="btn btn-plain">
            {t`Go to ${counted(openCount, 'open line', 'open lines')}`}
          </Link>
        )}
        <a className="btn btn-plain" href={`${report}?as=csv`} download>
          {t`Save CSV`}
        </a>
        <a className="btn btn-plain" href={`${report}?as=pdf`} target="_blank" rel="noreferrer">
          {t`Open PDF`}
        </a>
        <Button variant="plain" disabled={isPreparing} onClick={print}>
          {t`Print`}
        </Button>
        {isAgreed ? (
          <Button
            variant="plain"
            disabled={!hasLeave(leaves, 'reopen', role)}
            onClick={() => setIsReopening(true)}
          >
            {t`Reopen statement`}
          </Button>
        ) : (
          <Button
            variant="main"
            disabled={isLoading || hindrances.length > 0 || !hasLeave(leaves, 'close', role)}
            onClick={() => void agree({ booksId, bankAccountId, to, seenStep }).then(told)}
          >
            {t`Agree statement`}
          </Button>
        )}
      </span>
      {isReopening && <ReopenDialog statement={statement} onClose={() => setIsReopening(false)} />}
    </footer>
  );
}

/** Prints the screen, once all pages of the statement's rows are on it. */
function usePrint(statement: Statement): {
  readonly print: () => void;
  readonly isPreparing: boolean;
} {
  const {
    pages: { hasNextPage, isFetching, isError, fetchNextPage },
  } = useStatementRows(statement);
  const [isPreparing, setIsPreparing] = useState(false);
  useEffect(() => {
    if (!isPreparing || isFetching) return;
    if (hasNextPage && !isError) {
      void fetchNextPage();
      return;
    }
    setIsPreparing(false);
    if (!isError) window.print();
  }, [isPreparing, isFetching, isError, hasNextPage, fetchNextPage]);
  return { print: () => setIsPreparing(true), isPreparing };
}
