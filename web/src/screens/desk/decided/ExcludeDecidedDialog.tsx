import type { DecidedTarget } from '@zubrell/contract/desk';
import { givenExcludeReasons } from '@zubrell/core/ledger/excludeReasons';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Modal } from 'react-bootstrap';
import { linesApi } from '../../../api/lines.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { useUndo } from '../../../app/useUndo.tsx';
import { Dialog } from '../../../ui/Dialog.tsx';
import { DialogFoot } from '../../../ui/DialogFoot.tsx';
import { reasonMeanings, reasonNames } from '../excludeWords.ts';
import { ReasonChoice } from '../ReasonChoice.tsx';
import { useSeenStep } from '../useSeenStep.ts';

/** Asks why decided lines are to be kept out of the books. The server checks the reason line by line. */
export function ExcludeDecidedDialog({
  target,
  what,
  onClose,
  onDone,
}: {
  readonly target: DecidedTarget;
  /** @example '12 lines' */
  readonly what: string;
  readonly onClose: () => void;
  readonly onDone: () => void;
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const seenStep = useSeenStep();
  const [reason, setReason] = useState<(typeof givenExcludeReasons)[number]>('secondCopy');
  const [isDeleting, setIsDeleting] = useState(false);
  const [exclude, { isLoading }] = linesApi.useExcludeDecidedMutation();

  async function confirm(): Promise<void> {
    const as = isDeleting ? 'deleted' : 'excluded';
    if (told(await exclude({ booksId, target, reason, as, seenStep }))) onDone();
    onClose();
  }

  return (
    <Dialog title={t`Exclude ${what}`} onClose={onClose}>
      <Modal.Body>
        <p>
          {t`The entries posted from these lines are voided. Lines that the reason doesn’t apply to stay as they are and are listed.`}
        </p>
        {givenExcludeReasons.map((each) => (
          <ReasonChoice
            key={each}
            name={reasonNames[each]}
            what={reasonMeanings[each]}
            isOff={false}
            isChosen={reason === each}
            onChoose={() => setReason(each)}
          />
        ))}
        <label className="reason">
          <input
            type="checkbox"
            className="form-check-input"
            checked={isDeleting}
            onChange={({ target: { checked } }) => setIsDeleting(checked)}
          />
          <b>{t`Delete instead of exclude`}</b>
        </label>
      </Modal.Body>
      <DialogFoot isOff={isLoading} onLeave={onClose} onConfirm={confirm}>
        {isDeleting ? t`Delete ${what}` : t`Exclude ${what}`}
      </DialogFoot>
    </Dialog>
  );
}
