import { skipToken } from '@reduxjs/toolkit/query';
import type { AccountStatements, Statement } from '@zubrell/contract/statements';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { statementsApi } from '../../api/statements.ts';
import { InCurrency } from '../../app/InCurrency.tsx';
import { useBooks } from '../../app/useBooks.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { Equation, type StatementHead } from './Equation.tsx';
import { StatementFoot } from './StatementFoot.tsx';
import { StatementSide } from './StatementSide.tsx';
import { StatementTabs } from './StatementTabs.tsx';
import './statements.scss';

/** One statement: the equation on top, what it is made of, what would explain a difference, and agreeing it. */
export function StatementScreen() {
  const { booksId, currencyOf } = useBooks();
  const { bankAccountId = '', to = '' } = useParams();
  const { data, error, isFetching } = statementsApi.useStatementQuery({
    booksId,
    bankAccountId,
    to,
  });
  // Of a statement of many thousand lines the equation is there long before they are.
  const all = statementsApi.useStatementsQuery(data ? skipToken : booksId);
  if (error && !data) {
    return (
      <main className="page">
        <ErrorNote error={error} />
        <Link to={`/books/${booksId}/statements`} className="btn btn-plain">
          {t`All statements`}
        </Link>
      </main>
    );
  }
  const account = all.data?.accounts.find((each) => each.bankAccountId === bankAccountId);
  const head = data ?? (account && headOf(account, to));
  if (!head) return <Waiting what={t`the statement`} />;
  return (
    <InCurrency currency={currencyOf(bankAccountId)}>
      <Shown
        key={`${bankAccountId} ${to}`}
        head={head}
        statement={data ?? null}
        isFetching={isFetching}
      />
    </InCurrency>
  );
}

/** What the list of statements knows of one; null where it has none that ends on the day. */
function headOf({ statements, isTicked }: AccountStatements, to: string): StatementHead | null {
  const at = statements.findIndex((each) => each.to === to);
  const [found, before] = [statements[at], statements[at - 1]];
  if (!found) return null;
  return {
    ...found,
    isTicked,
    statedOpening: null,
    before: before ? { to: before.to, isAgreed: before.state === 'agreed' } : null,
  };
}

function Shown({
  head,
  statement,
  isFetching,
}: {
  readonly head: StatementHead;
  /** With its lines; null until they are there. */
  readonly statement: Statement | null;
  readonly isFetching: boolean;
}) {
  const { currencyOf } = useBooks();
  /** The explanation that is tried: the equation shows what it would do, and its lines are marked. */
  const [triedKey, setTriedKey] = useState<string | null>(null);
  const explanations = statement?.explanations ?? [];
  const tried = explanations.find(({ key }) => key === triedKey) ?? null;
  const current = tried ?? explanations[0] ?? null;
  const marked = current?.causes.flatMap(({ lineIds }) => lineIds) ?? [];
  return (
    <main className="statement" aria-busy={isFetching}>
      <Equation statement={head} tried={tried} />
      {statement === null ? (
        <div className="made-of">
          <Waiting what={t`the lines`} />
        </div>
      ) : (
        <>
          <InCurrency currency={currencyOf(statement.bankAccountId)} isBare>
            <StatementTabs statement={statement} marked={marked} />
          </InCurrency>
          <StatementSide
            statement={statement}
            currentKey={current?.key ?? null}
            isTrying={tried !== null}
            onTry={setTriedKey}
          />
          <StatementFoot statement={statement} />
        </>
      )}
    </main>
  );
}
