import type { Batch } from '@zubrell/contract/intake';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { intakeApi } from '../../api/intake.ts';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';

/** How often a batch under way is looked at, in milliseconds. */
const LOOK_EVERY = 700;

/** What came in so far, the newest first. */
export function Batches() {
  const { booksId } = useBooks();
  const [isWaiting, setIsWaiting] = useState(false);
  const { data, error } = intakeApi.useBatchesQuery(booksId, {
    pollingInterval: isWaiting ? LOOK_EVERY : 0,
  });
  const batches = data?.batches ?? [];
  const isReading = batches.some((batch) => batch.status === 'reading');
  if (isReading !== isWaiting) setIsWaiting(isReading);
  if (error && !data) return <ErrorNote error={error} />;
  if (data && batches.length === 0) {
    return <p className="quiet text-center mt-4">{t`No files imported yet.`}</p>;
  }
  return (
    <section className="mt-4" aria-label={t`Imports`}>
      <h2>{t`Import history`}</h2>
      <div className="sheet batches">
        <Table>
          <thead>
            <tr>
              <th>{t`File`}</th>
              <th>{t`Bank account`}</th>
              <th>{t`Lines dated`}</th>
              <th className="num">{t`Lines`}</th>
              <th className="num">{t`New`}</th>
              <th>{t`Imported`}</th>
              <th>{t`By`}</th>
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
  const missing = batch.problems.filter(({ severity }) => severity !== 'notice').length;
  return (
    <tr className={batch.status === 'kept' ? '' : 'quiet'}>
      <td>
        {batch.status === 'kept' || batch.status === 'takenBack' ? (
          <Link to={batch.id}>{batch.fileName}</Link>
        ) : (
          batch.fileName
        )}
        {batch.refusal && <div className="trouble">{batch.refusal.message}</div>}
        {missing > 0 && (
          <div className="doubt">{t`imported without ${counted(missing, 'record', 'records')}`}</div>
        )}
      </td>
      <td>{bankAccountName(batch.bankAccountId)}</td>
      <td>
        {batch.fromDate && batch.toDate
          ? t`${showDate(batch.fromDate)} to ${showDate(batch.toDate)}`
          : ''}
      </td>
      <td className="num">{batch.status === 'kept' ? batch.lineCount : ''}</td>
      <td className="num">{batch.status === 'kept' ? batch.newCount : STATUS[batch.status]}</td>
      <td>{showDate(batch.createdAt.slice(0, 10))}</td>
      <td>{batch.createdBy}</td>
    </tr>
  );
}

const STATUS: Readonly<Record<Batch['status'], string>> = {
  reading: t`importing …`,
  kept: '',
  refused: 'refused',
  takenBack: 'undone',
};
