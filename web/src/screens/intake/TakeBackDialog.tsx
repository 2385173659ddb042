import type { BatchSheet, TakeBackBatch } from '@zubrell/contract/intake';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Modal } from 'react-bootstrap';
import { intakeApi } from '../../api/intake.ts';
import { counted } from '../../app/formats.ts';
import { shownProblem } from '../../app/problem.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';

/** Asks what becomes of decided lines when a batch is taken back. */
export function TakeBackDialog({
  batch,
  onClose,
}: {
  readonly batch: BatchSheet;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { tell } = useUndo();
  const [takeBack, { isLoading, error }] = intakeApi.useTakeBackBatchMutation();
  const [decided, setDecided] = useState<TakeBackBatch['decided']>('stay');
  const { ownDecided, shared } = batch.counts;
  const going = batch.lineCount - shared - ownDecided;

  async function confirm(): Promise<void> {
    const answer = await takeBack({ booksId, batchId: batch.id, decided });
    if (!answer.data) return;
    tell(answer.data.words, answer.data.step);
    onClose();
  }

  return (
    <Dialog title={t`Undo import of ${batch.fileName}`} onClose={onClose}>
      <Modal.Body>
        <p>
          {counted(going, 'open line is removed', 'open lines are removed')}.
          {shared > 0 &&
            ` ${counted(shared, 'line is also in other imports and stays', 'lines are also in other imports and stay')}.`}
        </p>
        {ownDecided > 0 && (
          <>
            <p className="mb-1">{t`${counted(ownDecided, 'line is', 'lines are')} decided already:`}</p>
            <DecidedChoice
              value={decided}
              wanted="stay"
              onChange={setDecided}
              name={t`Keep these lines`}
            />
            <DecidedChoice
              value={decided}
              wanted="undo"
              onChange={setDecided}
              name={t`Reopen them and remove them too`}
            />
          </>
        )}
        {error && <p className="error-note mt-3 mb-0">{shownProblem(error).message}</p>}
      </Modal.Body>
      <DialogFoot isOff={isLoading} onLeave={onClose} onConfirm={confirm}>
        {t`Undo import`}
      </DialogFoot>
    </Dialog>
  );
}

function DecidedChoice({
  value,
  wanted,
  name,
  onChange,
}: {
  readonly value: TakeBackBatch['decided'];
  readonly wanted: TakeBackBatch['decided'];
  readonly name: string;
  readonly onChange: (value: TakeBackBatch['decided']) => void;
}) {
  return (
    <label className="reason">
      <input
        type="radio"
        name="decided"
        className="form-check-input"
        checked={value === wanted}
        onChange={() => onChange(wanted)}
      />
      <b>{name}</b>
    </label>
  );
}
