import type { DifferenceAnswer, PairingView, PairRow } from '@zubrell/contract/pairing';
import type { LineId } from '@zubrell/core/ids';
import { candidateName, candidateNames } from '@zubrell/core/pair/candidateNames';
import { lowerFirst } from '@zubrell/core/text/lowerFirst';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { lineAddress } from '../../app/lineAddress.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { tx } from '../../ui/tx.tsx';
import { PayeeField } from '../ledger/PayeeField.tsx';
import { DifferencePanel } from './DifferencePanel.tsx';
import { otherWords, whatWords, whyWords } from './pairingWords.ts';

/** The reasons in words: why what is ticked, what it does, and what else there is. */
export function PairingSide({
  view,
  rows,
  by,
  answer,
  onAnswer,
  onLines,
}: {
  readonly view: PairingView;
  readonly rows: readonly PairRow[];
  readonly by: number;
  readonly answer: DifferenceAnswer | null;
  readonly onAnswer: (answer: DifferenceAnswer | null) => void;
  readonly onLines: (lineIds: readonly LineId[]) => void;
}) {
  const { booksId, amount } = useBooks();
  const showDate = useShowDate();
  const ids = view.lines.map(({ id }) => id);
  const paired = view.nearMisses.flatMap(({ pairedWith, ...row }) =>
    pairedWith === null ? [] : [{ ...row, pairedWith }],
  );
  return (
    <aside className="reasons" aria-label={t`Reasons`}>
      {rows.length > 0 && (
        <section>
          <h2 className="small-heading">
            {rows.length === 1 ? t`Why this one` : t`Why these ${rows.length}`}
          </h2>
          {whyWords(view, rows, amount).map((words) => (
            <p key={words}>{words}</p>
          ))}
        </section>
      )}
      {rows.length > 0 && by !== 0 && (
        <DifferencePanel rows={rows} by={by} answer={answer} onAnswer={onAnswer} />
      )}
      {view.together.map(({ lines, rows: own }) => (
        <section key={lines.map(({ id }) => id).join()}>
          <h2 className="small-heading">
            {lines.length === 1 ? t`With another line` : t`With ${lines.length} other lines`}
          </h2>
          {lines.map((line) => (
            <p key={line.id} className="mb-1">
              <Amount minor={line.amount} /> {showDate(line.date)}
            </p>
          ))}
          <p>{t`They add up to ${lowerFirst(candidateNames(own))} exactly.`}</p>
          <Button variant="plain" onClick={() => onLines([...ids, ...lines.map(({ id }) => id)])}>
            {lines.length === 1 ? t`Add this line` : t`Add these lines`}
          </Button>
        </section>
      ))}
      {view.cancelling.length > 0 && rows.length === 0 && (
        <section>
          <h2 className="small-heading">{t`The same amount the other way`}</h2>
          {view.cancelling.map((line) => (
            <div key={line.id} className="cancelling">
              <span>
                <Amount minor={line.amount} /> {showDate(line.date)}
                <span className="mono d-block">{line.description}</span>
              </span>
              {!ids.includes(line.id) && (
                <Button variant="plain" onClick={() => onLines([...ids, line.id])}>
                  {t`Add line`}
                </Button>
              )}
            </div>
          ))}
          <p className="quiet mb-0">
            {t`A bank error and its correction are matched, and neither is booked.`}
          </p>
        </section>
      )}
      {otherWords(view, rows).map(({ row, words }) => (
        <section key={row.id}>
          <h2 className="small-heading">
            {t`${headingOf(row)} ${lowerFirst(candidateName(row))} of ${showDate(row.date)}`}
          </h2>
          <p className="mb-0">{words}</p>
        </section>
      ))}
      {paired.map(({ id, pairedWith, ...row }) => (
        <section key={id}>
          <h2 className="small-heading">{t`Why not ${lowerFirst(candidateName(row))}`}</h2>
          <p>
            {t`It is paired with the line of ${showDate(pairedWith.date)}. If that is wrong, reopen that line first.`}
          </p>
          <Link
            className="btn btn-plain"
            to={lineAddress(booksId, { ...pairedWith, isOpen: false })}
          >
            {t`Look at ${showDate(pairedWith.date)}`}
          </Link>
        </section>
      ))}
      {rows.length > 0 && (
        <section>
          <h2 className="small-heading">{t`What pairing does`}</h2>
          <p className="mb-0">{whatWords(rows, showDate(view.lines.at(-1)?.date ?? ''))}</p>
        </section>
      )}
      {rows.length === 0 && by !== 0 && (
        <section>
          <h2 className="small-heading">{t`Paid in advance?`}</h2>
          <p>
            {by > 0
              ? t`Keep ${amount(Math.abs(by))} as credit with the payee. It settles the invoice that comes.`
              : t`Keep ${amount(Math.abs(by))} as credit with the payee. It settles the bill that comes.`}
          </p>
          <PayeeField
            label={t`Payee of the credit`}
            kind={by > 0 ? 'customer' : 'supplier'}
            value={answer?.kind === 'onAccount' ? (answer.payeeId ?? null) : null}
            onChange={(payeeId) =>
              onAnswer(payeeId === null ? null : { kind: 'onAccount', payeeId })
            }
          />
        </section>
      )}
      {rows.length === 0 && view.cancelling.length === 0 && (
        <section>
          <h2 className="small-heading">{t`Nothing is ticked`}</h2>
          <p className="mb-0">
            {tx`Tick what the line is with ${<kbd>{t`Space`}</kbd>}. You can tick several; the totals below show what is left.`}
          </p>
        </section>
      )}
    </aside>
  );
}

function headingOf({ differences }: PairRow): string {
  if (differences.length === 0) return t`Also fits:`;
  return differences.some(({ kind }) => kind === 'amount') ? t`Nearly` : t`Why not`;
}
