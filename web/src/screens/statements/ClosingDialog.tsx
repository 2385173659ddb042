import type { StatementSummary } from '@zubrell/contract/statements';
import { ZubrellError } from '@zubrell/core/errors';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { statementsApi } from '../../api/statements.ts';
import { editedAmount, formatLongDate, readAmount } from '../../app/formats.ts';
import { shownProblem } from '../../app/problem.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';

/** A currency that somebody types beside an amount. @example '1,540.15 USD' */
const CURRENCY = /\b[A-Za-z]{3}\b/;

/** What the bank's statement says on its last day. */
export function ClosingDialog({
  statement,
  onClose,
}: {
  readonly statement: StatementSummary;
  readonly onClose: () => void;
}) {
  const { booksId, setup, bankAccountName, currency } = useBooks();
  const { told } = useUndo();
  const [send, { isLoading, error }] = statementsApi.useChangeStatementMutation();
  const { bankAccountId, to, closing, isClosingTyped } = statement;
  const [typed, setTyped] = useState(closing === null ? '' : editedAmount(closing, currency));
  const [wrong, setWrong] = useState<string | null>(null);
  const isCard = setup.bankAccounts.find(({ id }) => id === bankAccountId)?.kind === 'card';

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    try {
      const given = CURRENCY.exec(typed)?.[0]?.toUpperCase() ?? currency;
      const amount = readAmount(typed.replace(CURRENCY, '').trim(), currency);
      const answer = await send({
        booksId,
        bankAccountId,
        to,
        closing: { amount, currency: given },
      });
      if (answer.data && told(answer)) onClose();
    } catch (problem) {
      if (!(problem instanceof ZubrellError)) throw problem;
      setWrong(problem.message);
    }
  }

  async function clear(): Promise<void> {
    if (told(await send({ booksId, bankAccountId, to, closing: null }))) onClose();
  }

  return (
    <Dialog title={t`Closing balance of ${bankAccountName(bankAccountId)}`} onClose={onClose}>
      <Form onSubmit={(event) => void save(event)}>
        <Modal.Body>
          <Form.Group controlId="closing-balance">
            <Form.Label>{t`Balance on ${formatLongDate(to)}, as the bank’s statement says`}</Form.Label>
            <Form.Control
              className="num"
              inputMode="decimal"
              value={typed}
              isInvalid={wrong !== null}
              onChange={({ target }) => {
                setTyped(target.value);
                setWrong(null);
              }}
            />
            <Form.Control.Feedback type="invalid">{wrong}</Form.Control.Feedback>
            {isCard && (
              <Form.Text>{t`The balance owed on a card is negative: −1,540.15.`}</Form.Text>
            )}
          </Form.Group>
          {isClosingTyped && (
            <Button
              variant="link"
              className="mt-2"
              disabled={isLoading}
              onClick={() => void clear()}
            >
              {t`Use the balance from the file or feed`}
            </Button>
          )}
          {error !== undefined && (
            <p className="error-note mt-3 mb-0">{shownProblem(error).message}</p>
          )}
        </Modal.Body>
        <DialogFoot isOff={isLoading || typed.trim() === ''} onLeave={onClose}>
          {t`Save balance`}
        </DialogFoot>
      </Form>
    </Dialog>
  );
}
