import { t } from '@zubrell/core/words/t';
import type { ReactNode, Ref } from 'react';
import { Button, Modal } from 'react-bootstrap';

/** The foot of a dialog: leaving it, and what it is for. */
export function DialogFoot({
  leave = t`Cancel`,
  isOff,
  onLeave,
  onConfirm,
  confirmRef,
  children,
}: {
  readonly leave?: string;
  /** Whether it can't be confirmed now. */
  readonly isOff: boolean;
  readonly onLeave: () => void;
  /** Without it the button sends the form that it stands in. */
  readonly onConfirm?: () => Promise<void>;
  readonly confirmRef?: Ref<HTMLButtonElement>;
  /** What the main button says. */
  readonly children: ReactNode;
}) {
  return (
    <Modal.Footer>
      <Button variant="plain" onClick={onLeave}>
        {leave}
      </Button>
      <Button
        type={onConfirm ? 'button' : 'submit'}
        ref={confirmRef}
        variant="main"
        disabled={isOff}
        onClick={() => void onConfirm?.()}
      >
        {children}
      </Button>
    </Modal.Footer>
  );
}
