import type { BatchLine } from '@zubrell/contract/intake';
import type { BatchId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { Button, Modal } from 'react-bootstrap';
import { intakeApi } from '../../api/intake.ts';
import { shownProblem } from '../../app/problem.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { CompareLines } from '../../ui/CompareLines.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';

/** A row of a file beside the line it was taken for, and keeping it as a line of its own. */
export function FoldDialog({
  batchId,
  line,
  folded,
  onClose,
}: {
  readonly batchId: BatchId;
  readonly line: BatchLine;
  readonly folded: NonNullable<BatchLine['folded']>;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { tell } = useUndo();
  const [keepApart, { isLoading, error }] = intakeApi.useKeepApartMutation();
  const canKeep = folded.isHereWithout && line.apartLineId === null;

  async function confirm(): Promise<void> {
    const answer = await keepApart({ booksId, batchId, lineId: line.lineId });
    if (!answer.data) return;
    tell(answer.data.words, answer.data.step);
    onClose();
  }

  return (
    <Dialog title={t`Row ${line.place} matched a line that was already here`} onClose={onClose}>
      <Modal.Body>
        <CompareLines
          heads={[t`Row ${line.place}`, sourceOf(folded)]}
          mine={line}
          theirs={folded}
        />
        <p className="mt-3 mb-0">{outcome(line, folded)}</p>
        {error && <p className="error-note mt-3 mb-0">{shownProblem(error).message}</p>}
      </Modal.Body>
      {canKeep ? (
        <DialogFoot leave={t`Close`} isOff={isLoading} onLeave={onClose} onConfirm={confirm}>
          {t`Keep as another line`}
        </DialogFoot>
      ) : (
        <Modal.Footer>
          <Button variant="main" onClick={onClose}>
            {t`Close`}
          </Button>
        </Modal.Footer>
      )}
    </Dialog>
  );
}

function sourceOf({ source, place }: NonNullable<BatchLine['folded']>): string {
  return source === null ? t`Written by hand` : t`${source}, row ${place}`;
}

function outcome(line: BatchLine, folded: NonNullable<BatchLine['folded']>): string {
  if (line.apartLineId !== null)
    return t`The row is now a line of its own. Undo merges them again.`;
  if (!folded.isHereWithout) return t`That line is in the books only through this file.`;
  return t`They count as one payment. If the row is a different payment, keep it as a line of its own: it then appears on the Desk.`;
}
