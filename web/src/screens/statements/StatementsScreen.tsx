import type { AccountStatements, StatementSummary } from '@zubrell/contract/statements';
import { addDays, formatMonth, monthOf } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { statementsApi } from '../../api/statements.ts';
import { counted, formatCount } from '../../app/formats.ts';
import { InCurrency } from '../../app/InCurrency.tsx';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { tx } from '../../ui/tx.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { CycleDialog } from './CycleDialog.tsx';
import { periodWords, stateWords } from './statementWords.ts';
import './statements.scss';

/** So many statements of an account are shown before somebody asks for the older ones. */
const SHOWN = 6;

/** The statements of every bank account: what is agreed with the bank, and what is next. */
export function StatementsScreen() {
  const { booksId } = useBooks();
  const lastMonth = monthOf(addDays(`${monthOf(useToday())}-01`, -1));
  const { data, error } = statementsApi.useStatementsQuery(booksId);
  return (
    <main className="page statements">
      <header>
        <h1>{t`Statements`}</h1>
        {data && data.accounts.length > 0 && (
          <Link className="btn btn-plain" to={`/books/${booksId}/close/${lastMonth}`}>
            {t`Close ${formatMonth(lastMonth)}`}
          </Link>
        )}
        <p className="quiet">
          {t`Each statement opens at the previous closing balance. Agreed statements lock their account up to their last day.`}
        </p>
      </header>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what={t`the statements`} />}
      {data?.accounts.length === 0 && (
        <EmptyState title={t`No bank accounts yet`}>
          <p>{t`Import a bank file: its account is created with it. Or create one under Ledger.`}</p>
          <Link className="btn btn-main" to={`/books/${booksId}/intake`}>
            {t`Import a file`}
          </Link>
        </EmptyState>
      )}
      {data?.accounts.map((account) => (
        <AccountSection key={account.bankAccountId} account={account} />
      ))}
    </main>
  );
}

function AccountSection({ account }: { readonly account: AccountStatements }) {
  const { booksId, setup, bankAccountName, currencyOf } = useBooks();
  const [showsAll, setShowsAll] = useState(false);
  const [isChanging, setIsChanging] = useState(false);
  const { bankAccountId, statements, cycle, hasOpening } = account;
  const shown = statements.filter(
    (each) => each.lineCount > 0 || each.state !== 'open' || each.closing !== null,
  );
  const hidden = showsAll ? 0 : Math.max(0, shown.length - SHOWN);
  const rows = [...shown.slice(hidden)].reverse();
  const mayChange = setup.books.role !== 'reviewer';
  return (
    <section aria-label={bankAccountName(bankAccountId)}>
      <header>
        <h2>{bankAccountName(bankAccountId)}</h2>
        <span className="quiet">{cycleWords(cycle)}</span>
        {mayChange && (
          <Button variant="link" onClick={() => setIsChanging(true)}>
            {t`Change cycle`}
          </Button>
        )}
      </header>
      {!hasOpening && (
        <p className="doubt">
          {tx`This account has no opening balance. ${(
            <Link
              to={`/books/${booksId}/ledger/${setup.bankAccounts.find(({ id }) => id === bankAccountId)?.accountId}`}
            >
              {t`Record it under Ledger`}
            </Link>
          )} before you agree a statement.`}
        </p>
      )}
      {rows.length === 0 ? (
        <p className="quiet">
          {t`Nothing to agree yet: no lines and no entries after the opening balance.`}
        </p>
      ) : (
        <InCurrency currency={currencyOf(bankAccountId)}>
          <StatementTable rows={rows} />
        </InCurrency>
      )}
      {hidden > 0 && (
        <Button variant="link" onClick={() => setShowsAll(true)}>
          {t`Show ${counted(hidden, 'older statement', 'older statements')}`}
        </Button>
      )}
      {isChanging && <CycleDialog account={account} onClose={() => setIsChanging(false)} />}
    </section>
  );
}

function StatementTable({ rows }: { readonly rows: readonly StatementSummary[] }) {
  const { booksId, amount } = useBooks();
  const columns: readonly Column<StatementSummary>[] = [
    {
      id: 'period',
      head: t`Period`,
      className: 'wide',
      cell: ({ bankAccountId, from, to }) => (
        <Link to={`/books/${booksId}/statements/${bankAccountId}/${to}`}>
          {periodWords(from, to)}
        </Link>
      ),
    },
    {
      id: 'state',
      head: t`State`,
      className: 'state',
      cell: (row) => (
        <span className={row.state === 'agreed' ? 'quiet' : row.off ? 'trouble' : 'doubt'}>
          {stateWords(row)}
          {row.changedCount > 0 && t`, ${formatCount(row.changedCount)} changed since`}
        </span>
      ),
    },
    {
      id: 'lines',
      head: t`Lines`,
      className: 'num',
      cell: ({ lineCount }) => (lineCount === 0 ? '' : formatCount(lineCount)),
    },
    { id: 'opening', head: t`Opening`, className: 'num', cell: ({ opening }) => amount(opening) },
    { id: 'addsUp', head: t`Adds up to`, className: 'num', cell: ({ addsUp }) => amount(addsUp) },
    {
      id: 'closing',
      head: t`Statement says`,
      className: 'num',
      cell: ({ closing }) => (closing === null ? '' : amount(closing)),
    },
    {
      id: 'off',
      head: t`Off by`,
      className: 'num',
      cell: ({ off }) =>
        off === null ? '' : <b className={off === 0 ? '' : 'trouble'}>{amount(off)}</b>,
    },
  ];
  return (
    <DataTable rows={rows} columns={columns} rowKey={({ to }) => to} className="statement-list" />
  );
}

function cycleWords(cycle: AccountStatements['cycle']): string {
  if (cycle.kind === 'month') return t`by calendar month`;
  return cycle.kind === 'day' ? t`ends on day ${cycle.day} of the month` : t`ends on any day`;
}
