import { t } from '@zubrell/core/words/t';
import { Modal } from 'react-bootstrap';
import { useBooks } from '../../app/useBooks.ts';
import { Dialog } from '../../ui/Dialog.tsx';
import { NewAccountForm } from '../ledger/NewAccountForm.tsx';

const TYPED = /^\s*([0-9][0-9A-Z.-]{1,11})?\s*(.*?)\s*$/;

/** Makes an account from what was typed into a field, without leaving the line. */
export function NewAccountDialog({
  typed,
  isOut,
  onMade,
  onClose,
}: {
  readonly typed: string;
  readonly isOut: boolean;
  readonly onMade: (id: string) => void;
  readonly onClose: () => void;
}) {
  const { setup } = useBooks();
  const [, code = '', name = ''] = TYPED.exec(typed) ?? [];
  const type = isOut ? 'expense' : 'income';
  const own = setup.accounts.filter((account) => account.type === type).map((each) => each.code);
  const last = Math.max(0, ...own.map(Number).filter(Number.isInteger));
  const free = last === 0 ? '' : String(last + 10);
  return (
    <Dialog title={t`A new account`} onClose={onClose}>
      <Modal.Body>
        <NewAccountForm suggestion={{ code: code || free, name, type }} onMade={onMade} />
      </Modal.Body>
    </Dialog>
  );
}
