import { t } from '@zubrell/core/words/t';
import { Modal } from 'react-bootstrap';
import { Dialog } from '../ui/Dialog.tsx';
import { DialogFoot } from '../ui/DialogFoot.tsx';
import { counted } from './formats.ts';
import { useAppDispatch } from './store.ts';
import { type TurnAsked, turnAsked } from './undoSlice.ts';
import { useUndo } from './useUndo.tsx';

/** Names the steps that have to be undone or redone with one, and does so where that is wanted. */
export function TurnDialog({ asked }: { readonly asked: TurnAsked }) {
  const dispatch = useAppDispatch();
  const { undo, redo } = useUndo();
  const { direction, step, message, count } = asked;
  const isUndo = direction === 'undo';
  const more = counted(count, 'more step', 'more steps');
  const close = () => dispatch(turnAsked(null));

  async function confirm(): Promise<void> {
    close();
    await (isUndo ? undo(step, true) : redo(step, true));
  }

  return (
    <Dialog title={isUndo ? t`Undo step ${step}` : t`Redo step ${step}`} onClose={close}>
      <Modal.Body>
        <p className="mb-0">{message}</p>
      </Modal.Body>
      <DialogFoot isOff={false} onLeave={close} onConfirm={confirm}>
        {isUndo ? t`Undo step ${step} and ${more}` : t`Redo step ${step} and ${more}`}
      </DialogFoot>
    </Dialog>
  );
}
