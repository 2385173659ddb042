import type { StatementSummary } from '@zubrell/contract/statements';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Form, Modal } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { statementsApi } from '../../api/statements.ts';
import { formatLongDate } from '../../app/formats.ts';
import { shownProblem } from '../../app/problem.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';

/** The last day of a statement, where it is another than the cycle's. */
export function PeriodDialog({
  statement: { bankAccountId, from, to },
  onClose,
}: {
  readonly statement: StatementSummary;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const navigate = useNavigate();
  const [send, { isLoading, error }] = statementsApi.useChangeStatementMutation();
  const [last, setLast] = useState(to);

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    const answer = await send({ booksId, bankAccountId, to, lastDay: last });
    if (!answer.data || !told(answer)) return;
    onClose();
    void navigate(`/books/${booksId}/statements/${bankAccountId}/${last}`, { replace: true });
  }

  return (
    <Dialog title={t`Period of the statement`} onClose={onClose}>
      <Form onSubmit={(event) => void save(event)}>
        <Modal.Body>
          <p>
            {t`It begins on ${formatLongDate(from)}, the day after the statement before, so that no line falls between two statements.`}
          </p>
          <DateField label={t`Last day`} autoFocus value={last} min={from} onChange={setLast} />
          {error !== undefined && (
            <p className="error-note mt-3 mb-0">{shownProblem(error).message}</p>
          )}
        </Modal.Body>
        <DialogFoot isOff={isLoading || last === '' || last === to} onLeave={onClose}>
          {t`Save period`}
        </DialogFoot>
      </Form>
    </Dialog>
  );
}
