import { Modal } from 'react-bootstrap';
import { Dialog } from '../../ui/Dialog.tsx';

const KEYS: readonly (readonly [keys: string, does: string])[] = [
  ['↑ ↓ or J K', 'move'],
  ['→ ←', 'open a stack, close it'],
  ['Enter', 'post the line, or the stack whose head you are on'],
  ['Shift Enter', 'post the stack that the line is in'],
  ['Space', 'tick the line or the stack; ticked lines are coded together'],
  ['P A T', 'payee, account, tax; Enter takes the value, Esc leaves the old one'],
  ['N', 'the next likely account'],
  ['=', 'pair the line, or the ticked lines, with entries in the books'],
  ['S', 'split the line'],
  ['O', 'post this line once only: nothing is learned from it'],
  ['R', 'make a rule from this line'],
  ['Q', 'ask somebody about this line'],
  ['X', 'exclude or delete'],
  ['W', 'post what is ready, after a summary'],
  ['Z, Shift Z', 'undo, redo; on other screens with Ctrl'],
  ['/', 'search'],
  ['1 2 3 4 5', 'Ready, Check, Blank, Asked, Decided'],
  ['Ctrl K', 'jump to any screen, account or payee'],
];

/** The keys of the Desk. */
export function KeysDialog({ onClose }: { readonly onClose: () => void }) {
  return (
    <Dialog title="Keyboard shortcuts" onClose={onClose}>
      <Modal.Body>
        <p className="quiet">
          Shortcuts work while the list has the focus. Click an empty area to give it back.
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
