import type { ExcludeReason } from '@zubrell/contract/desk';
import { useState } from 'react';
import { Modal } from 'react-bootstrap';
import { api } from '../../app/api.ts';
import { useAppDispatch } from '../../app/store.ts';
import { bankAccountLabel, useBooks } from '../../app/useBooks.ts';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { excludeAsked } from './deskSlice.ts';
import { rowSum } from './rowSum.ts';
import type { DeskRow } from './rows.ts';
import { splitPrivately } from './split.ts';
import { useDeskActions } from './useDeskActions.ts';
import { useDeskScope } from './useDeskScope.ts';

const REASONS: readonly {
  readonly reason: ExcludeReason;
  readonly name: string;
  readonly what: string;
}[] = [
  {
    reason: 'secondCopy',
    name: 'Second copy',
    what: 'The bank moved this money once; the line came in twice.',
  },
  {
    reason: 'beforeOpening',
    name: 'Before the opening balance',
    what: 'The opening balance holds it already.',
  },
  {
    reason: 'bankError',
    name: 'Bank error with its correction',
    what: 'The bank really booked it and takes it back: exclude both, they must come to nil.',
  },
];

/** Asks why a line is kept out of the books, and shows what that does to the balance. */
export function ExcludeDialog({
  row,
  focusList,
}: {
  readonly row: DeskRow;
  readonly focusList: () => void;
}) {
  const { booksId, setup, amount } = useBooks();
  const { scope } = useDeskScope();
  const { data } = api.useProofQuery({ booksId, scope });
  const actions = useDeskActions();
  const { exclude, edit, codingOf } = actions;
  const dispatch = useAppDispatch();
  const [reason, setReason] = useState<ExcludeReason>('secondCopy');
  const [isDeleting, setIsDeleting] = useState(false);
  /** The bank account it belongs to, where that is the reason. */
  const [moveTo, setMoveTo] = useState<string | null>(null);
  const [isBusy, setIsBusy] = useState(false);
  const { total, count } = rowSum(row);
  const drawings = setup.accounts.find((account) => account.role === 'drawings');
  const what = count > 1 ? `${count} lines` : 'line';

  function close(): void {
    dispatch(excludeAsked(false));
    focusList();
  }

  async function confirm(): Promise<void> {
    setIsBusy(true);
    if (moveTo !== null) await actions.moveTo(row, moveTo);
    else await exclude(row, reason, isDeleting ? 'deleted' : 'excluded');
    close();
  }

  const proof = data?.proof;
  // A line that weighs nothing leaves the open sum; a stated bank balance stays where it is.
  const weighs = reason === 'bankError' || !proof?.isStated ? 0 : total;
  return (
    <Dialog
      title={
        <>
          Keep the {what} of {amount(total)} out of the books
        </>
      }
      onClose={close}
    >
      <Modal.Body>
        {REASONS.map((each) => (
          <label key={each.reason} className="reason">
            <input
              type="radio"
              name="reason"
              className="form-check-input"
              checked={moveTo === null && reason === each.reason}
              onChange={() => {
                setReason(each.reason);
                setMoveTo(null);
              }}
            />
            <span>
              <b>{each.name}</b>
              <br />
              <span className="quiet">{each.what}</span>
            </span>
          </label>
        ))}
        <label className="reason">
          <input
            type="radio"
            name="reason"
            className="form-check-input"
            checked={moveTo !== null}
            onChange={() => setMoveTo(setup.bankAccounts[0]?.id ?? '')}
          />
          <span>
            <b>Belongs to another bank account</b>
            <br />
            <span className="quiet">It came in through the wrong one, and moves there.</span>
          </span>
        </label>
        {moveTo !== null && (
          <select
            className="form-select mb-2"
            aria-label="Bank account it belongs to"
            value={moveTo}
            onChange={({ target }) => setMoveTo(target.value)}
          >
            {setup.bankAccounts.map((bank) => (
              <option key={bank.id} value={bank.id}>
                {bankAccountLabel(bank)}
              </option>
            ))}
          </select>
        )}
        <label className="reason">
          <input
            type="checkbox"
            disabled={moveTo !== null}
            className="form-check-input"
            checked={isDeleting}
            onChange={({ target }) => setIsDeleting(target.checked)}
          />
          <span>
            <b>Delete it</b>
            <br />
            <span className="quiet">
              It leaves the lists; a mark stays, so that it does not come in again and can be
              restored.
            </span>
          </span>
        </label>
        {proof && (
          <p className="mt-3 mb-0">
            Unexplained is {amount(proof.unexplained)} now, and{' '}
            <b className={proof.unexplained + weighs === 0 ? '' : 'trouble'}>
              {amount(proof.unexplained + weighs)}
            </b>{' '}
            after.
            {weighs !== 0 &&
              proof.unexplained === 0 &&
              ' The balance agrees with this line in it, so it looks real.'}
          </p>
        )}
        {drawings && (
          <p className="quiet mt-3 mb-0">
            Personal spending really left the account, so it is coded, not excluded:{' '}
            <button
              type="button"
              className="btn btn-link p-0 align-baseline"
              onClick={() => {
                void edit(row, { ...codingOf(row), accountId: drawings.id, taxCodeId: null });
                close();
              }}
            >
              code it to {drawings.name}
            </button>
            , or{' '}
            <button
              type="button"
              className="btn btn-link p-0 align-baseline"
              onClick={() => {
                void edit(row, splitPrivately(codingOf(row), drawings.id));
                close();
              }}
            >
              only half of it
            </button>
            ; the share can be changed then.
          </p>
        )}
      </Modal.Body>
      <DialogFoot isOff={isBusy} onLeave={close} onConfirm={confirm}>
        {moveTo !== null ? 'Move' : isDeleting ? 'Delete' : 'Exclude'} the {what}
      </DialogFoot>
    </Dialog>
  );
}
