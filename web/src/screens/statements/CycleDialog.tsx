import type { AccountStatements } from '@zubrell/contract/statements';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Form, Modal } from 'react-bootstrap';
import { statementsApi } from '../../api/statements.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';

const KINDS = [
  ['month', t`With the calendar month`],
  ['day', t`On a day of each month`],
  ['any', t`On any day, said for each statement`],
] as const;

/** How an account's statements follow each other. */
export function CycleDialog({
  account,
  onClose,
}: {
  readonly account: AccountStatements;
  readonly onClose: () => void;
}) {
  const { booksId, bankAccountName } = useBooks();
  const { told } = useUndo();
  const [send, { isLoading }] = statementsApi.useChangeCycleMutation();
  const [kind, setKind] = useState(account.cycle.kind);
  const [day, setDay] = useState(account.cycle.kind === 'day' ? String(account.cycle.day) : '8');
  const number = Number(day);
  const isDay = Number.isInteger(number) && number >= 1 && number <= 31;

  async function save(): Promise<void> {
    const cycle = kind === 'day' ? { kind, day: number } : { kind };
    const { bankAccountId } = account;
    if (told(await send({ booksId, bankAccountId, cycle }))) onClose();
  }

  return (
    <Dialog title={t`Statements of ${bankAccountName(account.bankAccountId)}`} onClose={onClose}>
      <Modal.Body>
        <fieldset>
          <legend className="small-heading">{t`They end`}</legend>
          {KINDS.map(([value, label]) => (
            <Form.Check
              key={value}
              type="radio"
              name="cycle"
              id={`cycle-${value}`}
              label={label}
              checked={kind === value}
              onChange={() => setKind(value)}
            />
          ))}
        </fieldset>
        {kind === 'day' && (
          <Form.Group className="mt-2" controlId="cycle-on">
            <Form.Label>{t`Day of the month`}</Form.Label>
            <Form.Control
              type="number"
              min={1}
              max={31}
              value={day}
              isInvalid={!isDay}
              onChange={({ target }) => setDay(target.value)}
            />
            <Form.Text>{t`In shorter months, the last day.`}</Form.Text>
            <Form.Control.Feedback type="invalid">{t`Enter a day from 1 to 31.`}</Form.Control.Feedback>
          </Form.Group>
        )}
        <p className="quiet mt-3">{t`Agreed statements keep their days.`}</p>
      </Modal.Body>
      <DialogFoot
        isOff={isLoading || (kind === 'day' && !isDay)}
        onLeave={onClose}
        onConfirm={save}
      >
        {t`Save cycle`}
      </DialogFoot>
    </Dialog>
  );
}
