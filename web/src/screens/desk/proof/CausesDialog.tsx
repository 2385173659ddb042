import type { Proof, ProofCause } from '@zubrell/contract/desk';
import { t } from '@zubrell/core/words/t';
import { Button, Modal } from 'react-bootstrap';
import { Link } from 'react-router';
import { lineAddress } from '../../../app/lineAddress.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { useShowDate } from '../../../app/useToday.ts';
import { Dialog } from '../../../ui/Dialog.tsx';
import { causeTitles, causeWords } from './proofWords.ts';

/** What is unexplained, part by part, each with the way to what it is about. */
export function CausesDialog({
  proof,
  onClose,
}: {
  readonly proof: Pick<Proof, 'currency' | 'causes' | 'unexplained'>;
  readonly onClose: () => void;
}) {
  const { amount } = useBooks();
  return (
    <Dialog
      title={t`Unexplained ${amount(proof.unexplained, { currency: proof.currency })}`}
      isWide
      onClose={onClose}
    >
      <Modal.Body>
        <ul className="causes">
          {proof.causes.map((cause) => (
            <Cause
              key={`${cause.kind} ${cause.bankAccountId} ${cause.lineId ?? cause.entryId}`}
              cause={cause}
              onLeave={onClose}
            />
          ))}
        </ul>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="plain" onClick={onClose}>
          {t`Close`}
        </Button>
      </Modal.Footer>
    </Dialog>
  );
}

function Cause({ cause, onLeave }: { readonly cause: ProofCause; readonly onLeave: () => void }) {
  const { booksId, bankAccountName, amount, currencyOf } = useBooks();
  const showDate = useShowDate();
  const { kind, lineId, entryId, date, text, likely, bankAccountId } = cause;
  const line = likely
    ? { date: likely.date, description: likely.description, isOpen: likely.reason !== 'keptOut' }
    : lineId && text
      ? { date, description: text, isOpen: false }
      : null;
  const own = { currency: currencyOf(bankAccountId) };
  const inOwn = (minor: number) => amount(minor, own);
  const month = date.slice(0, 7);
  return (
    <li>
      <div className="cause-head">
        <b>{causeTitles[kind]}</b>
        <b className="num">{amount(cause.amount, own)}</b>
      </div>
      <p>
        {bankAccountName(bankAccountId)}: {causeWords(cause, { showDate, amount: inOwn })}
      </p>
      {line ? (
        <Link to={lineAddress(booksId, line)} onClick={onLeave}>
          {t`Open the line`}
        </Link>
      ) : entryId ? (
        <Link to={`/books/${booksId}/ledger/entries?entry=${entryId}`} onClick={onLeave}>
          {t`Open the entry`}
        </Link>
      ) : (
        <Link
          to={`/books/${booksId}/desk?account=${bankAccountId}&period=${month}`}
          onClick={onLeave}
        >
          {t`Open the month`}
        </Link>
      )}
    </li>
  );
}
