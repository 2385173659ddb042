import { formatMonth, lastDayOf } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { boardApi } from '../../api/board.ts';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { SweepDialog } from '../desk/SweepDialog.tsx';
import { AccountCell } from './AccountCell.tsx';
import './board.scss';
import { FirstSteps } from './FirstSteps.tsx';
import { MonthCell } from './MonthCell.tsx';
import { NeedsYou } from './NeedsYou.tsx';
import { SinceVisit } from './SinceVisit.tsx';
import { WhatIsDue } from './WhatIsDue.tsx';
import { WorkByMonth } from './WorkByMonth.tsx';

/** So many months fit beside each other. */
const SHOWN = 4;

/** What is left to do, at a glance: bank accounts by months. */
export function BoardScreen() {
  const { booksId, setup } = useBooks();
  const { data: board, error } = boardApi.useBoardQuery(booksId);
  const today = useToday();
  const { lockDate } = setup.books;
  const isClosedMonth = (month: string) => lockDate !== null && lastDayOf(month) <= lockDate;
  const [back, setBack] = useState(0);
  const [isSweeping, setIsSweeping] = useState(false);
  if (error && !board) {
    return (
      <main className="page">
        <ErrorNote error={error} />
      </main>
    );
  }
  if (!board) return <Waiting what={t`the Board`} />;
  if (board.rows.every(({ knownTo }) => knownTo === null)) {
    return (
      <main className="page">
        <FirstSteps />
      </main>
    );
  }
  const end = board.months.length - back;
  const start = Math.max(0, end - SHOWN);
  const months = board.months.slice(start, end);
  const { ready, check, blank, asked } = board.open;
  const open = ready + check + blank + asked;
  return (
    <main className="board">
      <div className="board-main">
        <header className="board-head">
          <div>
            <h1>{headline(open, ready)}</h1>
            <p className="quiet m-0">{proofLine(board.rows.map(({ cells }) => cells))}</p>
          </div>
          <span className="board-steps">
            <Button variant="plain" disabled={start === 0} onClick={() => setBack(back + SHOWN)}>
              {t`Earlier`}
            </Button>
            <Button
              variant="plain"
              disabled={back === 0}
              onClick={() => setBack(Math.max(0, back - SHOWN))}
            >
              {t`Later`}
            </Button>
          </span>
          {ready > 0 && (
            <Button variant="main" onClick={() => setIsSweeping(true)}>
              {t`Post the ${ready} ready lines …`}
            </Button>
          )}
          {open > ready && (
            <Link
              className={ready > 0 ? 'btn btn-plain' : 'btn btn-main'}
              to={`/books/${booksId}/desk?lane=${check > 0 ? 'check' : 'blank'}`}
            >
              {t`Continue on the Desk`}
            </Link>
          )}
        </header>
        <div className="sheet board-table">
          <table>
            <thead>
              <tr>
                <th scope="col">{t`Bank and cards`}</th>
                {months.map((month) => (
                  <th key={month} scope="col">
                    {formatMonth(month)}{' '}
                    {lastDayOf(month) < today && (
                      <Link to={`/books/${booksId}/close/${month}`}>
                        {isClosedMonth(month) ? t`closed` : t`Close`}
                      </Link>
                    )}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {board.rows.map((row) => (
                <tr key={row.bankAccountId}>
                  <AccountCell row={row} />
                  {row.cells.slice(start, end).map((cell) => (
                    <MonthCell key={cell.month} bankAccountId={row.bankAccountId} cell={cell} />
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <div className="board-cards">
          <SinceVisit />
          <WhatIsDue due={board.due} />
        </div>
        <WorkByMonth />
      </div>
      <NeedsYou board={board} />
      {isSweeping && <SweepDialog scope={{}} onClose={() => setIsSweeping(false)} />}
    </main>
  );
}

function headline(open: number, ready: number): string {
  if (open === 0) return t`Nothing is left to do`;
  const lines = counted(open, 'line to go', 'lines to go');
  return ready === 0 ? lines : t`${lines}, ${ready} of them ready`;
}

function proofLine(rows: readonly (readonly { readonly unexplained: number | null }[])[]): string {
  const last = rows.map((cells) => cells.at(-1)?.unexplained ?? null);
  const proved = last.filter((each) => each === 0).length;
  const unknown = last.filter((each) => each === null).length;
  const rest = unknown > 0 ? t`, ${unknown} have no bank balance` : '';
  return t`Every difference is explained on ${proved} of ${rows.length} accounts${rest}.`;
}
