import { t } from '@zubrell/core/words/t';
import { Modal } from 'react-bootstrap';
import { Dialog } from '../../ui/Dialog.tsx';
import { NewBooksForm } from './NewBooksForm.tsx';
import { ReadArchive } from './ReadArchive.tsx';

/** New books: begun, or read from an archive. */
export function MakeBooks({ onClose }: { readonly onClose: () => void }) {
  return (
    <Dialog title={t`New books`} onClose={onClose}>
      <Modal.Body>
        <NewBooksForm />
        <ReadArchive />
      </Modal.Body>
    </Dialog>
  );
}
