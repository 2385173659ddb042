import { t } from '@zubrell/core/words/t';
import { Modal } from 'react-bootstrap';
import { Dialog } from '../../ui/Dialog.tsx';

const KEYS: readonly (readonly [keys: string, does: string])[] = [
  [t`↑ ↓ or J K`, 'move'],
  ['→ ←', t`open a stack, close it`],
  [t`Enter`, t`post the line, or the stack whose head you are on`],
  [t`Shift Enter`, t`post the stack that the line is in`],
  [t`Space`, t`tick the line or the stack; ticked lines are coded together`],
  ['P A T', t`payee, account, tax; Enter takes the value, Esc leaves the old one`],
  ['N', t`the next likely account`],
  ['=', t`pair the line, or the ticked lines, with entries in the books`],
  ['S', t`split the line`],
  ['O', t`post this line once only: nothing is learned from it`],
  ['R', t`make a rule from this line`],
  ['Q', t`ask somebody about this line`],
  ['X', t`exclude or delete`],
  ['W', t`post what is ready, after a summary`],
  [t`Z, Shift Z`, t`undo, redo; on other screens with Ctrl`],
  ['/', 'search'],
  ['1 2 3 4 5', t`Ready, Check, Blank, Asked, Decided`],
  [t`Ctrl K`, t`jump to any screen, account or payee`],
];

/** The keys of the Desk. */
export function KeysDialog({ onClose }: { readonly onClose: () => void }) {
  return (
    <Dialog title={t`Keyboard shortcuts`} onClose={onClose}>
      <Modal.Body>
        <p className="quiet">
          {t`Shortcuts work while the list has the focus. Click an empty area to give it back.`}
        </p>
        <dl className="keys">
          {KEYS.map(([keys, does]) => (
            <div key={keys}>
              <dt>
                <kbd>{keys}</kbd>
              </dt>
              <dd>{does}</dd>
            </div>
          ))}
        </dl>
      </Modal.Body>
    </Dialog>
  );
}
