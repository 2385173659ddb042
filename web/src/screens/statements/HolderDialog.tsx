import type { BankAccountId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { statementsApi } from '../../api/statements.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';

/** Says what a cardholder is called, whom files name by a number or in capitals. */
export function HolderDialog({
  bankAccountId,
  cardholder,
  onClose,
}: {
  readonly bankAccountId: BankAccountId;
  readonly cardholder: string;
  readonly onClose: () => void;
}) {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const [send, { error, isLoading }] = statementsApi.useNameHoldersMutation();
  const names = setup.bankAccounts.find(({ id }) => id === bankAccountId)?.holderNames ?? {};
  const [name, setName] = useState(names[cardholder] ?? '');

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    const { [cardholder]: _before, ...others } = names;
    const wanted = name.trim();
    const holderNames = wanted === '' ? others : { ...others, [cardholder]: wanted };
    const answer = await send({ booksId, bankAccountId, holderNames });
    if (answer.data && told(answer)) onClose();
  }

  return (
    <Dialog title={t`Cardholder ${cardholder}`} onClose={onClose}>
      <form onSubmit={(event) => void save(event)}>
        <Modal.Body>
          <TextField
            label={t`Name`}
            autoFocus
            maxLength={100}
            value={name}
            hint={t`Shown on this account instead of the name in the bank’s file. Leave it empty to show the bank’s name.`}
            onChange={({ target }) => setName(target.value)}
          />
          {error && <ErrorNote error={error} />}
        </Modal.Body>
        <DialogFoot isOff={isLoading} onLeave={onClose}>
          {t`Save name`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}
