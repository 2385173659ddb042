import type { BooksOverview } from '@zubrell/contract/overview';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Dropdown, Form, Modal } from 'react-bootstrap';
import { Link } from 'react-router';
import { booksApi } from '../../api/books.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import type { LateProps } from '../../ui/LateMenu.tsx';
import { MenuFrame } from '../../ui/MenuFrame.tsx';

/** Their settings, another name, the archive. */
export function BooksMenuOpened({ button, books }: LateProps & { readonly books: BooksOverview }) {
  const { id, name, role, isArchived } = books;
  const [changeBooks] = booksApi.useChangeBooksMutation();
  const [isRenaming, setIsRenaming] = useState(false);

  async function archive(): Promise<void> {
    const { data, error } = await changeBooks({ booksId: id, isArchived: !isArchived });
    if (data) toast(`${name}: ${data.words}`);
    else toast.error(shownProblem(error).message);
  }

  return (
    <>
      <MenuFrame button={button} align="end">
        <Dropdown.Item as={Link} to={`/books/${id}/settings`}>
          {t`Open settings`}
        </Dropdown.Item>
        {role === 'owner' && (
          <>
            <Dropdown.Item onClick={() => setIsRenaming(true)}>{t`Rename books`}</Dropdown.Item>
            <Dropdown.Item onClick={() => void archive()}>
              {isArchived ? t`Take out of the archive` : t`Archive books`}
            </Dropdown.Item>
          </>
        )}
      </MenuFrame>
      {isRenaming && <RenameDialog books={books} onClose={() => setIsRenaming(false)} />}
    </>
  );
}

function RenameDialog({
  books: { id, name },
  onClose,
}: {
  readonly books: BooksOverview;
  readonly onClose: () => void;
}) {
  const [changeBooks, { isLoading, error }] = booksApi.useChangeBooksMutation();
  const [typed, setTyped] = useState(name);
  const wanted = typed.trim();

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    const { data } = await changeBooks({ booksId: id, name: wanted });
    if (!data) return;
    toast(data.words);
    onClose();
  }

  return (
    <Dialog title={t`Rename ${name}`} onClose={onClose}>
      <Form onSubmit={(event) => void save(event)}>
        <Modal.Body>
          <Form.Group controlId="books-name">
            <Form.Label>{t`Name of the business`}</Form.Label>
            <Form.Control
              maxLength={100}
              value={typed}
              onChange={({ target }) => setTyped(target.value)}
            />
          </Form.Group>
          {error !== undefined && (
            <p className="error-note mt-3 mb-0">{shownProblem(error).message}</p>
          )}
        </Modal.Body>
        <DialogFoot isOff={isLoading || wanted === '' || wanted === name} onLeave={onClose}>
          {t`Save name`}
        </DialogFoot>
      </Form>
    </Dialog>
  );
}
