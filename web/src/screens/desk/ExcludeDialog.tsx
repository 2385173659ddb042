import type { ExcludeReason } from '@zubrell/contract/desk';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Modal } from 'react-bootstrap';
import { linesApi } from '../../api/lines.ts';
import { formatCount } from '../../app/formats.ts';
import { useAppDispatch } from '../../app/store.ts';
import { bankAccountLabel, useBooks } from '../../app/useBooks.ts';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { tx } from '../../ui/tx.tsx';
import { proofScope } from './deskScope.ts';
import { excludeAsked } from './deskSlice.ts';
import { reasonNames } from './excludeWords.ts';
import { MateChoice } from './MateChoice.tsx';
import { PersonalNote } from './PersonalNote.tsx';
import { ReasonChoice } from './ReasonChoice.tsx';
import { rowSum } from './rowSum.ts';
import type { DeskRow } from './rows.ts';
import { useOfAmount } from './useCurrencyOfRow.ts';
import { useDeskActions } from './useDeskActions.ts';
import { useDeskScope } from './useDeskScope.ts';
import { useExcludeChoices } from './useExcludeChoices.ts';

const REASONS = Object.keys(reasonNames) as ExcludeReason[];

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
  const { data } = linesApi.useProofQuery({ booksId, ...proofScope(scope) });
  const actions = useDeskActions();
  const { exclude, edit, codingOf } = actions;
  const dispatch = useAppDispatch();
  const choices = useExcludeChoices(row);
  const [chosen, setChosen] = useState<ExcludeReason | 'move' | null>(null);
  const [originalId, setOriginalId] = useState<string | null>(null);
  const [correctionId, setCorrectionId] = useState<string | null>(null);
  const [isDeleting, setIsDeleting] = useState(false);
  const [moveTo, setMoveTo] = useState(setup.bankAccounts[0]?.id ?? '');
  const [isBusy, setIsBusy] = useState(false);
  const { total, count } = rowSum(row);
  const ofAmount = useOfAmount();
  const what = count > 1 ? t`the ${formatCount(count)} lines` : t`the line`;
  const first = REASONS.find((each) => choices.refusals[each] === null) ?? 'move';
  const reason = chosen ?? first;
  const original = originalId ?? choices.originals[0]?.id;
  const correction = correctionId ?? choices.corrections[0]?.id;

  function close(): void {
    dispatch(excludeAsked(false));
    focusList();
  }

  async function confirm(): Promise<void> {
    setIsBusy(true);
    if (reason === 'move') await actions.moveTo(row, moveTo);
    else {
      await exclude(row, reason, {
        as: isDeleting ? 'deleted' : 'excluded',
        lineId: choices.lineId,
        originalId: reason === 'secondCopy' ? original : undefined,
        correctionId: reason === 'bankError' ? correction : undefined,
      });
    }
    close();
  }

  const proof = data?.proof;
  // A line that weighs nothing leaves the open sum; a stated bank balance stays where it is.
  const weighs = reason !== 'secondCopy' || !proof?.isStated ? 0 : total;
  return (
    <Dialog
      title={
        count > 1
          ? t`Keep the ${formatCount(count)} lines${ofAmount(row, total)} out of the books`
          : t`Keep the line${ofAmount(row, total)} out of the books`
      }
      onClose={close}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void confirm();
        }}
      >
        <Modal.Body>
          {REASONS.map((each) => (
            <ReasonChoice
              key={each}
              autoFocus={each === first}
              name={reasonNames[each]}
              what={choices.refusals[each] ?? choices.meanings[each]}
              isOff={choices.refusals[each] !== null}
              isChosen={reason === each}
              onChoose={() => setChosen(each)}
            >
              {each === 'secondCopy' && (
                <MateChoice
                  label={t`Copy of`}
                  mates={choices.originals}
                  value={original}
                  onChange={setOriginalId}
                />
              )}
              {each === 'bankError' && (
                <MateChoice
                  label={t`Corrected by`}
                  mates={choices.corrections}
                  value={correction}
                  onChange={setCorrectionId}
                />
              )}
            </ReasonChoice>
          ))}
          <ReasonChoice
            name={t`Belongs to another bank account`}
            what={t`It was imported into the wrong account and moves to the one you choose.`}
            isOff={setup.bankAccounts.length < 2}
            isChosen={reason === 'move'}
            autoFocus={first === 'move'}
            onChoose={() => setChosen('move')}
          >
            <select
              className="form-select mb-2"
              aria-label={t`Bank account it belongs to`}
              value={moveTo}
              onChange={({ target }) => setMoveTo(target.value)}
            >
              {setup.bankAccounts.map((bank) => (
                <option key={bank.id} value={bank.id}>
                  {bankAccountLabel(bank)}
                </option>
              ))}
            </select>
          </ReasonChoice>
          <label className="reason">
            <input
              type="checkbox"
              disabled={reason === 'move'}
              className="form-check-input"
              checked={isDeleting}
              onChange={({ target }) => setIsDeleting(target.checked)}
            />
            <span>
              <b>{t`Delete instead of exclude`}</b>
              <br />
              <span className="quiet">
                {t`It leaves the lists. A marker stays, so that the line isn’t imported again and can be restored.`}
              </span>
            </span>
          </label>
          {proof && (
            <p className="mt-3 mb-0">
              {tx`Unexplained is ${amount(proof.unexplained)} now and ${<b className={proof.unexplained + weighs === 0 ? '' : 'trouble'}>{amount(proof.unexplained + weighs)}</b>} after.`}
              {weighs !== 0 &&
                proof.unexplained === 0 &&
                ` ${t`The balance agrees with this line included, so it looks real.`}`}
            </p>
          )}
          <PersonalNote
            onEdit={(change) => {
              void edit(row, change(codingOf(row)));
              close();
            }}
          />
        </Modal.Body>
        <DialogFoot isOff={isBusy} onLeave={close}>
          {reason === 'move'
            ? t`Move ${what}`
            : isDeleting
              ? t`Delete ${what}`
              : t`Exclude ${what}`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}
