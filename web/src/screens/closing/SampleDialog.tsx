import type { SampledLine } from '@zubrell/contract/closing';
import { formatMonth } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Form, Modal } from 'react-bootstrap';
import { closingApi } from '../../api/closing.ts';
import { counted, countLines } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Amount } from '../../ui/Amount.tsx';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';

/** Some lines of a month for a reviewer to look at: the largest, and others by chance. */
export function SampleDialog({
  month,
  onClose,
}: {
  readonly month: string;
  readonly onClose: () => void;
}) {
  const { booksId, payeeName, accountName } = useBooks();
  const showDate = useShowDate();
  const { told } = useUndo();
  const { data, error } = closingApi.useReviewSampleQuery({ booksId, month });
  const [send, { isLoading }] = closingApi.useReviewLinesMutation();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const waiting = (data?.lines ?? []).filter(({ reviewedBy }) => reviewedBy === null);
  const chosen = waiting.filter(({ id }) => !left.has(id ?? ''));
  const toggle = (id: string) => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    setLeft(next);
  };

  async function confirm(): Promise<void> {
    if (told(await send({ booksId, month, lineIds: chosen.map(({ id }) => id) }))) onClose();
  }

  const columns: readonly Column<SampledLine>[] = [
    {
      id: 'chosen',
      head: t`Seen`,
      cell: ({ id, reviewedBy, text }) =>
        reviewedBy ?? (
          <Form.Check
            aria-label={t`Seen: ${text}`}
            checked={!left.has(id ?? '')}
            onChange={() => toggle(id ?? '')}
          />
        ),
    },
    { id: 'date', head: t`Date`, cell: ({ date }) => showDate(date) },
    { id: 'text', head: t`Wording`, cell: ({ text }) => <span className="mono">{text}</span> },
    { id: 'payee', head: t`Payee`, cell: ({ payeeId }) => payeeName(payeeId) },
    {
      id: 'account',
      head: t`Account`,
      cell: ({ accountIds }) => accountIds.map(accountName).join(', '),
    },
    {
      id: 'amount',
      head: t`Amount`,
      className: 'num',
      cell: (row) => <Amount minor={row.amount} />,
    },
  ];
  return (
    <Dialog title={t`A sample of ${formatMonth(month)}`} isWide onClose={onClose}>
      <Modal.Body>
        {error && <ErrorNote error={error} />}
        {!data && !error && <Waiting what={t`the sample`} />}
        {data?.lines.length === 0 && (
          <EmptyState title={t`No decided lines in this month`}>
            <p>{t`Post lines on the Desk first.`}</p>
          </EmptyState>
        )}
        {data && data.lines.length > 0 && (
          <>
            <p className="quiet">
              {t`${data.lines.length} of ${counted(data.lineCount, 'decided line', 'decided lines')}: the largest first, then others at random. Untick wrong lines and send the month back with a note.`}
            </p>
            <DataTable
              className="sample"
              rows={data.lines}
              columns={columns}
              rowKey={({ id }) => id ?? ''}
            />
          </>
        )}
      </Modal.Body>
      <DialogFoot isOff={isLoading || chosen.length === 0} onLeave={onClose} onConfirm={confirm}>
        {t`Mark ${countLines(chosen.length)} as reviewed`}
      </DialogFoot>
    </Dialog>
  );
}
