import { skipToken } from '@reduxjs/toolkit/query';
import type { BatchLine, BatchSheet } from '@zubrell/contract/intake';
import type { BatchId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Table } from 'react-bootstrap';
import { Link, useParams } from 'react-router';
import { intakeApi } from '../../api/intake.ts';
import { formatCount } from '../../app/formats.ts';
import { InCurrency } from '../../app/InCurrency.tsx';
import { lineStateNames } from '../../app/lineStateNames.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Amount } from '../../ui/Amount.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { FoldDialog } from './FoldDialog.tsx';
import { MoveBatchDialog } from './MoveBatchDialog.tsx';
import { ProblemList } from './ProblemList.tsx';
import { TakeBackDialog } from './TakeBackDialog.tsx';

/** One batch: what it brought, whether its balances hold, and taking it back or moving it. */
export function BatchScreen() {
  const { booksId, amount, bankAccountName, currencyOf } = useBooks();
  const { batchId } = useParams();
  const asked = batchId === undefined ? skipToken : { booksId, batchId };
  const { data: batch, error } = intakeApi.useBatchQuery(asked);
  const showDate = useShowDate();
  if (error && !batch) {
    return (
      <main className="page">
        <ErrorNote error={error} />
      </main>
    );
  }
  if (!batch) return <Waiting what={t`the batch`} />;
  const currency = currencyOf(batch.bankAccountId);
  return (
    <InCurrency currency={currency}>
      <main className="preview batch">
        <aside className="preview-side">
          <div>
            <Link to={`/books/${booksId}/intake`} className="quiet">
              {t`All imports`}
            </Link>
            <h1 className="file-name">{batch.fileName}</h1>
            <p className="quiet m-0">
              {t`${bankAccountName(batch.bankAccountId)}, imported ${showDate(batch.createdAt.slice(0, 10))} by ${batch.createdBy}`}
            </p>
            {batch.movedFrom && (
              <p className="quiet m-0">{t`Moved here from another bank account.`}</p>
            )}
          </div>
          <BalanceOfBatch batch={batch} />
          <section>
            <h2 className="small-heading">{t`Summary`}</h2>
            <div className="tally">
              <span>{t`Lines`}</span>
              <b>{formatCount(batch.lineCount)}</b>
              <span>{t`New lines`}</span>
              <b>{formatCount(batch.newCount)}</b>
              <span>{t`Open now`}</span>
              <b>{batch.counts.open}</b>
              <span>{t`Posted`}</span>
              <b>{batch.counts.posted}</b>
              <span>{t`Excluded or deleted`}</span>
              <b>{batch.counts.excluded}</b>
              <span>{t`Also in other imports`}</span>
              <b>{batch.counts.shared}</b>
              {batch.closing !== null && (
                <>
                  <span>{t`Closing balance`}</span>
                  <b>{amount(batch.closing, { currency })}</b>
                </>
              )}
            </div>
          </section>
          {batch.problems.length > 0 && (
            <section>
              <h2 className="small-heading">{t`To check`}</h2>
              <ProblemList problems={batch.problems} />
            </section>
          )}
        </aside>
        <BatchLinesTable batchId={batch.id} />
        <BatchFoot batch={batch} />
      </main>
    </InCurrency>
  );
}

function BalanceOfBatch({ batch }: { readonly batch: BatchSheet }) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  const { firstBreak, closing } = batch;
  if (firstBreak) {
    return (
      <p className="note off">
        {t`The balances stop adding up on ${showDate(firstBreak.date)}, by ${amount(firstBreak.difference, { plus: true })}`}
        {firstBreak.since && t`. They agreed until ${showDate(firstBreak.since)}`}.
      </p>
    );
  }
  return (
    <p className={`note ${closing === null ? 'quiet' : 'sure'}`}>
      {closing === null
        ? t`The file states no balance.`
        : t`The balances add up with the lines already here.`}
    </p>
  );
}

function BatchFoot({ batch }: { readonly batch: BatchSheet }) {
  const { redo } = useUndo();
  const { booksId } = useBooks();
  const [asked, setAsked] = useState<'takeBack' | 'move' | null>(null);
  const close = () => setAsked(null);
  return (
    <footer className="preview-foot">
      <span className="quiet" role="status">
        {batch.status === 'takenBack' && t`Undone: its open lines are no longer in the books.`}
      </span>
      {batch.status === 'kept' && (
        <>
          <Link
            className="btn btn-plain ms-auto"
            to={`/books/${booksId}/desk?account=${batch.bankAccountId}&lane=blank`}
          >
            {t`Open on the Desk`}
          </Link>
          <Button variant="plain" onClick={() => setAsked('move')}>
            {t`Move to another account`}
          </Button>
          <Button variant="plain" onClick={() => setAsked('takeBack')}>
            {t`Undo import`}
          </Button>
        </>
      )}
      {batch.status === 'takenBack' && batch.turnedBy !== null && (
        <BringBack step={batch.turnedBy} redo={redo} />
      )}
      {asked === 'takeBack' && <TakeBackDialog batch={batch} onClose={close} />}
      {asked === 'move' && <MoveBatchDialog batch={batch} onClose={close} />}
    </footer>
  );
}

/** Brings a batch back by undoing what took it back, or doing again what kept it. */
function BringBack({
  step,
  redo,
}: {
  readonly step: NonNullable<BatchSheet['turnedBy']>;
  readonly redo: (step: number) => Promise<void>;
}) {
  const { undo } = useUndo();
  return (
    <Button
      variant="main"
      className="ms-auto"
      onClick={() => void (step.isUndo ? redo(step.no) : undo(step.no))}
    >
      {t`Restore import`}
    </Button>
  );
}

const STATES: Readonly<Record<BatchLine['state'], string>> = {
  ...lineStateNames,
  gone: t`not in the books`,
};

function BatchLinesTable({ batchId }: { readonly batchId: BatchId }) {
  const { booksId, amount } = useBooks();
  const showDate = useShowDate();
  const { data, hasNextPage, fetchNextPage, isFetching } = intakeApi.useBatchLinesInfiniteQuery({
    booksId,
    batchId,
  });
  const lines = data?.pages.flatMap(({ items }) => items) ?? [];
  const [opened, setOpened] = useState<BatchLine | null>(null);
  return (
    <section className="preview-lines">
      <div className="preview-head">
        <h2>{t`Lines in this import`}</h2>
      </div>
      <div className="sheet batch-lines">
        <Table>
          <thead>
            <tr>
              <th className="num">{t`Row`}</th>
              <th>{t`Date`}</th>
              <th>{t`Description`}</th>
              <th className="num">{t`Amount`}</th>
              <th className="num">{t`Balance`}</th>
              <th>{t`State`}</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr key={line.lineId} className={line.state === 'gone' ? 'quiet' : ''}>
                <td className="num">{line.place}</td>
                <td>{showDate(line.date)}</td>
                <td className="mono">{line.description}</td>
                <td className="num">
                  <Amount minor={line.amount} />
                </td>
                <td className="num">{line.balance !== null && amount(line.balance)}</td>
                <td className={line.isDoubtful ? 'doubt' : ''}>
                  {line.isDoubtful ? t`twice?` : STATES[line.state]}
                  {line.folded && (
                    <Button variant="link" className="p-0 ms-2" onClick={() => setOpened(line)}>
                      {line.apartLineId === null ? t`already imported` : t`kept as another line`}
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
        {hasNextPage && (
          <Button
            variant="plain"
            className="m-2"
            disabled={isFetching}
            onClick={() => void fetchNextPage()}
          >
            {t`More`}
          </Button>
        )}
      </div>
      {opened?.folded && (
        <FoldDialog
          batchId={batchId}
          line={opened}
          folded={opened.folded}
          onClose={() => setOpened(null)}
        />
      )}
    </section>
  );
}
