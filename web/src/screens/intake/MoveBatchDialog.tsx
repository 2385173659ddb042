import type { BatchSheet } from '@zubrell/contract/intake';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Modal } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { intakeApi } from '../../api/intake.ts';
import { shownProblem } from '../../app/problem.ts';
import { bankAccountLabel, useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';

/** Asks where a batch that was kept in the wrong bank account belongs. */
export function MoveBatchDialog({
  batch,
  onClose,
}: {
  readonly batch: BatchSheet;
  readonly onClose: () => void;
}) {
  const { booksId, setup, bankAccountName } = useBooks();
  const { tell } = useUndo();
  const navigate = useNavigate();
  const [move, { isLoading, error }] = intakeApi.useMoveBatchMutation();
  const others = setup.bankAccounts.filter(({ id }) => id !== batch.bankAccountId);
  const [target, setTarget] = useState(others[0]?.id ?? '');
  const { ownDecided } = batch.counts;

  async function confirm(): Promise<void> {
    const answer = await move({ booksId, batchId: batch.id, bankAccountId: target });
    if (!answer.data) return;
    tell(answer.data.words, answer.data.step);
    navigate(`/books/${booksId}/intake`);
  }

  return (
    <Dialog title={t`Move import of ${batch.fileName}`} onClose={onClose}>
      <Modal.Body>
        <label htmlFor="move-to" className="small-heading">
          {t`From ${bankAccountName(batch.bankAccountId)} to`}
        </label>
        <select
          id="move-to"
          className="form-select"
          value={target}
          onChange={(event) => setTarget(event.target.value)}
        >
          {others.map((bank) => (
            <option key={bank.id} value={bank.id}>
              {bankAccountLabel(bank)}
            </option>
          ))}
        </select>
        <p className="mt-3 mb-0">
          {t`The lines are removed from this account and imported into the other one. Lines that are already there aren’t imported again.`}
          {ownDecided > 0 &&
            ` ${ownDecided === 1 ? t`The 1 line decided so far is reopened.` : t`The ${ownDecided} lines decided so far are reopened.`}`}
        </p>
        {error && <p className="error-note mt-3 mb-0">{shownProblem(error).message}</p>}
      </Modal.Body>
      <DialogFoot isOff={isLoading || target === ''} onLeave={onClose} onConfirm={confirm}>
        {t`Move import`}
      </DialogFoot>
    </Dialog>
  );
}
