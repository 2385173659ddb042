import type { Statement, StatementRow } from '@zubrell/contract/statements';
import { daysBetween } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { statementsApi } from '../../api/statements.ts';
import { counted, formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Amount } from '../../ui/Amount.tsx';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { MoreButton } from '../../ui/MoreButton.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { ChangesNote } from './ChangesNote.tsx';
import { HolderRows } from './HolderRows.tsx';
import { standWords } from './statementWords.ts';
import { useMarkedRows, useStatementRows } from './useStatementRows.ts';

type Tab = 'period' | 'holders' | 'outstanding' | 'elsewhere';

/** What a statement is made of, what the bank has not reported yet, and what counts elsewhere. */
export function StatementTabs({
  statement,
  marked,
}: {
  readonly statement: Statement;
  readonly marked: readonly string[];
}) {
  const [tab, setTab] = useState<Tab>('period');
  const { lineCount, outstanding, elsewhere, isTicked, hasHolders } = statement;
  const shown = formatCount(lineCount);
  const choices: readonly (readonly [Tab, string])[] = [
    ['period', isTicked ? t`Ticked ${shown}` : t`In the period ${shown}`],
    ...(hasHolders ? ([['holders', t`By cardholder`]] as const) : []),
    ...(isTicked
      ? []
      : ([['outstanding', t`Not yet at the bank ${formatCount(outstanding.length)}`]] as const)),
    [
      'elsewhere',
      isTicked
        ? t`Not ticked ${formatCount(elsewhere.length)}`
        : t`In other statements ${formatCount(elsewhere.length)}`,
    ],
  ];
  return (
    <section className="made-of" aria-label={t`Lines of the statement`}>
      <header>
        <Segments label={t`Shown`} choices={choices} value={tab} onChange={setTab} />
        <span className="quiet">{standWords(statement)}</span>
      </header>
      <ChangesNote statement={statement} />
      <div className="rows">
        {tab === 'holders' && <HolderRows statement={statement} />}
        {tab === 'outstanding' && <OutstandingRows statement={statement} />}
        {tab === 'elsewhere' && (
          <Rows statement={statement} rows={elsewhere} marked={marked} isElsewhere />
        )}
        {tab === 'period' && <PeriodRows statement={statement} marked={marked} />}
      </div>
    </section>
  );
}

/** What is in the statement, as far as it was asked for. */
function PeriodRows({
  statement,
  marked,
}: {
  readonly statement: Statement;
  readonly marked: readonly string[];
}) {
  const { pages, rows } = useStatementRows(statement);
  useMarkedRows(statement, marked);
  if (rows === null && pages.error) return <ErrorNote error={pages.error} />;
  if (rows === null) return <Waiting what={t`the lines`} />;
  return (
    <>
      <Rows statement={statement} rows={rows} marked={marked} isElsewhere={false} />
      {pages.error && <ErrorNote error={pages.error} />}
      <MoreButton pages={pages}>{t`Show more lines`}</MoreButton>
    </>
  );
}

function Rows({
  statement,
  rows,
  marked,
  isElsewhere,
}: {
  readonly statement: Statement;
  readonly rows: readonly StatementRow[];
  readonly marked: readonly string[];
  readonly isElsewhere: boolean;
}) {
  const { amount, payeeName, accountName, holderName, setup } = useBooks();
  const showDate = useShowDate();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const mayChange = statement.state !== 'agreed' && setup.books.role !== 'reviewer';
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    setChosen(next);
  };
  const columns: readonly Column<StatementRow>[] = [
    ...(mayChange
      ? [
          {
            id: 'chosen',
            head: '',
            className: 'choose',
            cell: (row: StatementRow) => (
              <Form.Check
                aria-label={t`Choose ${row.text}, ${amount(row.amount)}`}
                checked={chosen.has(row.id)}
                onChange={() => toggle(row.id)}
              />
            ),
          },
        ]
      : []),
    {
      id: 'date',
      head: t`Date`,
      className: 'date',
      cell: ({ date, isLate, day }) => (
        <>
          {showDate(date)}
          {isLate && <small className="doubt"> {t`late`}</small>}
          {day !== null && statement.isTicked === false && (
            <small className="quiet"> {t`moved`}</small>
          )}
        </>
      ),
    },
    {
      id: 'wording',
      head: t`Wording`,
      className: 'wide',
      title: ({ text }) => text,
      cell: ({ text }) => <span className="mono">{text}</span>,
    },
    ...(statement.hasHolders
      ? [
          {
            id: 'holder',
            head: t`Cardholder`,
            className: 'holder',
            cell: ({ cardholder }: StatementRow) =>
              cardholder && holderName(statement.bankAccountId, cardholder),
          },
        ]
      : []),
    { id: 'payee', head: t`Payee`, className: 'name', cell: ({ payeeId }) => payeeName(payeeId) },
    {
      id: 'account',
      head: t`Account`,
      className: 'name',
      title: ({ accountIds }) => accountIds.map(accountName).join(', '),
      cell: (row) => <Where row={row} />,
    },
    {
      id: 'amount',
      head: t`Amount`,
      className: 'num',
      cell: (row) => <Amount minor={row.amount} />,
    },
    {
      id: 'runsTo',
      head: t`Runs to`,
      className: 'num',
      cell: ({ runsTo }) => (runsTo === null ? '' : amount(runsTo)),
    },
  ];
  if (rows.length === 0) {
    return (
      <EmptyState
        title={isElsewhere ? t`No lines in other statements` : t`No lines in this period`}
      >
        <p>
          {isElsewhere
            ? t`Lines at the edge can be moved to the next or the previous statement.`
            : statement.isTicked
              ? t`Tick the entries that are on the printed statement, under Not ticked.`
              : t`Import the bank’s file or fetch the feed under Intake.`}
        </p>
      </EmptyState>
    );
  }
  return (
    <>
      {chosen.size > 0 && (
        <ChosenBar
          statement={statement}
          ids={[...chosen]}
          isElsewhere={isElsewhere}
          onDone={() => setChosen(new Set())}
        />
      )}
      <DataTable
        className="statement-rows"
        rows={rows}
        columns={columns}
        rowKey={({ id }) => id}
        rowClass={(row) =>
          [
            marked.includes(row.id) ? 'hot' : '',
            row.isCounted || isElsewhere ? '' : 'kept-out',
          ].join(' ')
        }
      />
    </>
  );
}

/** Where a line went, or why it did not. */
function Where({ row }: { readonly row: StatementRow }) {
  const { accountName } = useBooks();
  switch (row.state) {
    case 'open':
      return <span className="doubt">{t`open`}</span>;
    case 'asked':
      return <span className="asked">{t`asked`}</span>;
    case 'excluded':
      return <span className="quiet">{t`excluded`}</span>;
    case 'deleted':
      return <span className="quiet">{t`deleted`}</span>;
    case 'posted':
    case 'paired':
    case 'entry':
      return <>{row.accountIds.map(accountName).join(', ')}</>;
  }
}

/** What can be done with chosen lines: count them in another statement, or tick entries. */
function ChosenBar({
  statement: { bankAccountId, to, isTicked, before, after },
  ids,
  isElsewhere,
  onDone,
}: {
  readonly statement: Statement;
  readonly ids: readonly string[];
  readonly isElsewhere: boolean;
  readonly onDone: () => void;
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const [move, { isLoading: isMoving }] = statementsApi.useMoveStatementLinesMutation();
  const [tick, { isLoading: isTicking }] = statementsApi.useTickEntriesMutation();
  const isBusy = isMoving || isTicking;
  const of = { booksId, bankAccountId, to };
  const count = counted(ids.length, 'chosen', 'chosen');

  async function moveTo(where: 'next' | 'previous' | 'own'): Promise<void> {
    if (told(await move({ ...of, lineIds: [...ids], into: where }))) onDone();
  }
  async function setTicked(ticked: boolean): Promise<void> {
    if (told(await tick({ ...of, legIds: [...ids], isTicked: ticked }))) onDone();
  }

  return (
    <div className="chosen-bar" role="toolbar" aria-label={t`Chosen lines`}>
      <span>{count}</span>
      {isTicked ? (
        <Button
          variant="plain"
          size="sm"
          disabled={isBusy}
          onClick={() => void setTicked(isElsewhere)}
        >
          {isElsewhere ? t`Tick entries` : t`Untick entries`}
        </Button>
      ) : isElsewhere ? (
        <Button variant="plain" size="sm" disabled={isBusy} onClick={() => void moveTo('own')}>
          {t`Count lines by their date`}
        </Button>
      ) : (
        <>
          <Button
            variant="plain"
            size="sm"
            disabled={isBusy || after === null}
            onClick={() => void moveTo('next')}
          >
            {t`Move to next statement`}
          </Button>
          <Button
            variant="plain"
            size="sm"
            disabled={isBusy || before === null || before.isAgreed}
            onClick={() => void moveTo('previous')}
          >
            {t`Move to previous statement`}
          </Button>
        </>
      )}
    </div>
  );
}

function OutstandingRows({ statement }: { readonly statement: Statement }) {
  const { booksId, amount, setup } = useBooks();
  const showDate = useShowDate();
  if (statement.outstanding.length === 0) {
    return (
      <EmptyState title={t`Nothing outstanding`}>
        <p>{t`Everything in the books is at the bank by the last day of this statement.`}</p>
      </EmptyState>
    );
  }
  const accountId = setup.bankAccounts.find(({ id }) => id === statement.bankAccountId)?.accountId;
  const stale = setup.books.ages.outstanding;
  const age = (date: string) => daysBetween(date, statement.to);
  const days = (date: string) => counted(age(date), 'day', 'days');
  type Item = Statement['outstanding'][number];
  const columns: readonly Column<Item>[] = [
    { id: 'date', head: t`Date`, className: 'date', cell: ({ date }) => showDate(date) },
    {
      id: 'what',
      head: t`Entry`,
      className: 'wide',
      cell: ({ entryId, text, payee, number, kind }) => (
        <Link to={`/books/${booksId}/ledger/${accountId}?entry=${entryId}`}>
          {[kind ?? 'entry', number, payee ?? text].filter(Boolean).join(' · ')}
        </Link>
      ),
    },
    {
      id: 'age',
      head: t`Age`,
      className: 'num',
      cell: ({ date }) => (
        <span className={age(date) > stale ? 'doubt' : ''}>
          {age(date) > stale ? t`${days(date)}, stale` : days(date)}
        </span>
      ),
    },
    {
      id: 'amount',
      head: t`Amount`,
      className: 'num',
      cell: (row) => amount(row.amount, { plus: true }),
    },
  ];
  return (
    <DataTable
      rows={statement.outstanding}
      columns={columns}
      rowKey={({ entryId, lineId, amount: minor }) => `${entryId} ${lineId} ${minor}`}
      className="statement-rows"
    />
  );
}
