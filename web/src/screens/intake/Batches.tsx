import type { Batch } from '@zubrell/contract/intake';
import { useState } from 'react';
import { Table } from 'react-bootstrap';
import { api } from '../../app/api.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { ProblemList } from './ProblemList.tsx';

/** How often a batch under way is looked at, in milliseconds. */
const LOOK_EVERY = 700;

/** What came in so far, the newest first. */
export function Batches() {
  const { booksId } = useBooks();
  const [isWaiting, setIsWaiting] = useState(false);
  const { data, error } = api.useBatchesQuery(booksId, {
    pollingInterval: isWaiting ? LOOK_EVERY : 0,
  });
  const batches = data?.batches ?? [];
  const isReading = batches.some((batch) => batch.status === 'reading');
  if (isReading !== isWaiting) setIsWaiting(isReading);
  if (error) return <ErrorNote error={error} />;
  if (data && batches.length === 0) {
    return <p className="quiet text-center mt-4">No file has come in yet.</p>;
  }
  return (
    <section className="mt-4" aria-label="Batches">
      <h2>Came in so far</h2>
      <div className="sheet">
        <Table>
          <thead>
            <tr>
              <th>File</th>
              <th>Bank account</th>
              <th>Lines dated</th>
              <th className="num">Lines</th>
              <th className="num">New</th>
              <th>Kept</th>
              <th>By</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {batches.map((batch) => (
              <BatchRow key={batch.id} batch={batch} />
            ))}
          </tbody>
        </Table>
      </div>
    </section>
  );
}

function BatchRow({ batch }: { readonly batch: Batch }) {
  const { bankAccountName } = useBooks();
  const showDate = useShowDate();
  const [isOpen, setIsOpen] = useState(false);
  const missing = batch.problems.filter(({ severity }) => severity !== 'notice').length;
  return (
    <>
      <tr className={batch.status === 'kept' ? '' : 'quiet'}>
        <td>
          {batch.fileName}
          {batch.refusal && <div className="trouble">{batch.refusal.message}</div>}
          {missing > 0 && (
            <button
              type="button"
              className="btn btn-link p-0 d-block doubt"
              aria-expanded={isOpen}
              onClick={() => setIsOpen(!isOpen)}
            >
              kept without {missing === 1 ? '1 record' : `${missing} records`}
            </button>
          )}
        </td>
        <td>{bankAccountName(batch.bankAccountId)}</td>
        <td>
          {batch.fromDate && batch.toDate
            ? `${showDate(batch.fromDate)} to ${showDate(batch.toDate)}`
            : ''}
        </td>
        <td className="num">{batch.status === 'kept' ? batch.lineCount : ''}</td>
        <td className="num">{batch.status === 'kept' ? batch.newCount : STATUS[batch.status]}</td>
        <td>{showDate(batch.createdAt.slice(0, 10))}</td>
        <td>{batch.createdBy}</td>
        <td className="num">
          <TurnButton batch={batch} />
        </td>
      </tr>
      {isOpen && (
        <tr>
          <td colSpan={8}>
            <ProblemList problems={batch.problems} />
          </td>
        </tr>
      )}
    </>
  );
}

/** Takes a batch back as a whole, or brings it back. */
function TurnButton({ batch }: { readonly batch: Batch }) {
  const { undo, redo } = useUndo();
  const { step, status, fileName } = batch;
  if (step === null || (status !== 'kept' && status !== 'takenBack')) return null;
  const words = status === 'kept' ? 'Take back' : 'Bring back';
  return (
    <button
      type="button"
      className="btn btn-plain btn-sm"
      aria-label={`${words} ${fileName}`}
      onClick={() => void (status === 'kept' ? undo(step) : redo(step))}
    >
      {words}
    </button>
  );
}

const STATUS: Readonly<Record<Batch['status'], string>> = {
  reading: 'coming in …',
  kept: '',
  refused: 'refused',
  takenBack: 'taken back',
};
