import { foldCase } from '@zubrell/core/text/foldCase';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { peopleApi } from '../../api/people.ts';
import { questionsApi } from '../../api/questions.ts';
import { formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { rowSum } from './rowSum.ts';
import type { DeskRow } from './rows.ts';
import { useOfAmount } from './useCurrencyOfRow.ts';
import { useDeskActions } from './useDeskActions.ts';

const PHRASES = [
  t`What was this for?`,
  t`Is this personal, or for the business?`,
  t`Please send the invoice or receipt for this.`,
  t`Which job or customer does this belong to?`,
];

/** Asks somebody about a line, a stack or the ticked lines. */
export function AskDialog({
  row,
  onClose,
}: {
  readonly row: DeskRow;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { ask } = useDeskActions();
  const earlier = questionsApi.useQuestionsQuery(booksId).data?.questions ?? [];
  const [typed, setTyped] = useState<string | null>(null);
  // Who was asked last, also where that comes later than the dialog.
  const askedOf = typed ?? earlier.at(-1)?.askedOf ?? '';
  const people = peopleApi.usePeopleQuery(booksId).data;
  const names = new Set([
    ...(people?.members.filter(({ role }) => role === 'client') ?? []).map(({ name }) => name),
    ...(people?.invitations ?? []).map(({ name }) => name),
    ...earlier.map((question) => question.askedOf),
    ...(people?.members ?? []).map(({ name }) => name),
  ]);
  const signsIn = people?.members.some(({ name }) => foldCase(name) === foldCase(askedOf.trim()));
  const [words, setWords] = useState(PHRASES[0] ?? '');
  const [isBusy, setIsBusy] = useState(false);
  const { total, count } = rowSum(row);
  const ofAmount = useOfAmount();

  async function send(): Promise<void> {
    setIsBusy(true);
    const isAsked = await ask(row, askedOf, words);
    setIsBusy(false);
    if (isAsked) onClose();
  }

  return (
    <Dialog
      title={
        count === 1
          ? t`Ask about the line${ofAmount(row, total)}`
          : t`Ask about ${formatCount(count)} lines${ofAmount(row, total)}`
      }
      onClose={onClose}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <Modal.Body>
          <TextField
            label={t`Who to ask`}
            value={askedOf}
            autoFocus
            list="asked-before"
            onChange={({ target }) => setTyped(target.value)}
          />
          <datalist id="asked-before">
            {[...names].map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
          {askedOf.trim() !== '' && (
            <p className="quiet mt-1 mb-0">
              {signsIn
                ? t`${askedOf.trim()} sees the question after signing in, and can answer it there.`
                : t`${askedOf.trim()} can’t sign in yet: record the answer yourself, or send an invitation from Settings.`}
            </p>
          )}
          <div className="phrases">
            {PHRASES.map((phrase) => (
              <Button key={phrase} variant="plain" onClick={() => setWords(phrase)}>
                {phrase}
              </Button>
            ))}
          </div>
          <label htmlFor="ask-words" className="small-heading">
            {t`Question`}
          </label>
          <textarea
            id="ask-words"
            className="form-control"
            rows={3}
            maxLength={2_000}
            value={words}
            onChange={({ target }) => setWords(target.value)}
          />
        </Modal.Body>
        <DialogFoot
          isOff={isBusy || askedOf.trim() === '' || words.trim() === ''}
          onLeave={onClose}
        >
          {t`Ask`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}
