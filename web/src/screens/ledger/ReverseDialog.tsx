import type { Entry } from '@zubrell/contract/ledger';
import { addDays, lastDayOf, monthOf } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { journalsApi } from '../../api/journals.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';

/** Asks on which day a journal is reversed: the first of the next month, where nobody says otherwise. */
export function ReverseDialog({
  entry,
  onClose,
}: {
  readonly entry: Entry;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const [date, setDate] = useState(addDays(lastDayOf(monthOf(entry.date)), 1));
  const [reverse, { error, isLoading }] = journalsApi.useReverseEntryMutation();

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    const answer = await reverse({ booksId, entryId: entry.id, date });
    if (answer.data && told(answer)) onClose();
  }

  return (
    <Dialog title={t`Reverse journal`} onClose={onClose}>
      <form onSubmit={(event) => void save(event)}>
        <Modal.Body>
          <p>
            {t`The journal of ${formatLongDate(entry.date)} stays. An entry with the same legs the other way round is posted on the day you choose.`}
          </p>
          <DateField
            label={t`Reverse on`}
            autoFocus
            min={entry.date}
            value={date}
            onChange={setDate}
          />
          {error && <ErrorNote error={error} />}
        </Modal.Body>
        <DialogFoot isOff={date === '' || isLoading} onLeave={onClose}>
          {t`Reverse journal`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}
