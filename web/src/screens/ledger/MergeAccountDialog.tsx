import type { Account } from '@zubrell/contract/books';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { booksApi } from '../../api/books.ts';
import { accountLabel, standing, useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { SelectField } from '../../ui/SelectField.tsx';

/** Asks which account another is merged into, and says what comes of it. */
export function MergeAccountDialog({
  account,
  onClose,
}: {
  readonly account: Account;
  readonly onClose: () => void;
}) {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const go = useNavigate();
  const [into, setInto] = useState('');
  const [merge, { error, isLoading }] = booksApi.useMergeAccountMutation();
  const banks = new Set(setup.bankAccounts.map(({ accountId }) => accountId));
  const others = standing(setup.accounts).filter(
    ({ id, type, tax }) =>
      id !== account.id && type === account.type && tax === account.tax && !banks.has(id),
  );

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    const answer = await merge({ booksId, accountId: account.id, into });
    if (!answer.data || !told(answer)) return;
    onClose();
    void go(`/books/${booksId}/ledger/${into}`);
  }

  return (
    <Dialog title={t`Merge ${accountLabel(account)}`} onClose={onClose}>
      <form onSubmit={(event) => void save(event)}>
        <Modal.Body>
          <p>
            {t`Everything posted to this account, in every year, counts in the other account from now on. Rules and habits that name it go there too. The merged account leaves the chart; Undo restores it.`}
          </p>
          <SelectField
            label={t`Into`}
            autoFocus
            value={into}
            onChange={({ target }) => setInto(target.value)}
          >
            <option value="">{t`choose an account of the same type`}</option>
            {others.map((other) => (
              <option key={other.id} value={other.id}>
                {accountLabel(other)}
              </option>
            ))}
          </SelectField>
          {error && <ErrorNote error={error} />}
        </Modal.Body>
        <DialogFoot isOff={into === '' || isLoading} onLeave={onClose}>
          {t`Merge accounts`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}
