import type { Statement } from '@zubrell/contract/statements';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Form, Modal } from 'react-bootstrap';
import { statementsApi } from '../../api/statements.ts';
import { formatLongDate } from '../../app/formats.ts';
import { shownProblem } from '../../app/problem.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';

/** Opening an agreed statement again takes a reason, which History keeps. */
export function ReopenDialog({
  statement: { bankAccountId, to },
  onClose,
}: {
  readonly statement: Statement;
  readonly onClose: () => void;
}) {
  const { booksId, bankAccountName } = useBooks();
  const { told } = useUndo();
  const [send, { isLoading, error }] = statementsApi.useReopenStatementMutation();
  const [reason, setReason] = useState('');

  async function confirm(event: FormEvent): Promise<void> {
    event.preventDefault();
    const answer = await send({ booksId, bankAccountId, to, reason: reason.trim() });
    if (answer.data && told(answer)) onClose();
  }

  return (
    <Dialog title={t`Reopen the statement to ${formatLongDate(to)}`} onClose={onClose}>
      <Form onSubmit={(event) => void confirm(event)}>
        <Modal.Body>
          <p>
            {t`${bankAccountName(bankAccountId)} can then change again from the first day of this statement. What changes is listed on it until it is agreed again.`}
          </p>
          <Form.Group controlId="reopen-reason">
            <Form.Label>{t`Reason, for History`}</Form.Label>
            <Form.Control
              as="textarea"
              rows={2}
              maxLength={300}
              value={reason}
              onChange={({ target }) => setReason(target.value)}
            />
          </Form.Group>
          {error !== undefined && (
            <p className="error-note mt-3 mb-0">{shownProblem(error).message}</p>
          )}
        </Modal.Body>
        <DialogFoot isOff={isLoading || reason.trim() === ''} onLeave={onClose}>
          {t`Reopen statement`}
        </DialogFoot>
      </Form>
    </Dialog>
  );
}
