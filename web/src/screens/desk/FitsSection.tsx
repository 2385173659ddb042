import type { PairTarget } from '@zubrell/contract/pairing';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import type { DeskRow } from './rows.ts';
import { useOpenPairing } from './useOpenPairing.ts';

/** What a line seems to be in the books already, with the way to compare all that it could be. */
export function FitsSection({ row }: { readonly row: Extract<DeskRow, { kind: 'line' }> }) {
  const openPairing = useOpenPairing();
  const { proposal } = row.line;
  const isNearly = proposal?.doubts.some(({ kind }) => kind === 'nearlyInBooks') ?? false;
  const targets = proposal?.kind === 'pair' ? proposal.targets : [];
  return (
    <section>
      <h2 className="small-heading">{t`In the books`}</h2>
      {targets.length > 0 ? (
        <ul className="fits">
          {targets.map((target) => (
            <Target key={target.id} target={target} />
          ))}
        </ul>
      ) : (
        <p className="quiet mb-2">
          {isNearly ? t`An entry almost matches.` : t`No entry in the books matches this line.`}
        </p>
      )}
      <Button variant="plain" onClick={() => openPairing(row)}>
        {targets.length > 0 || isNearly ? t`Compare` : t`Search the books`}
        <kbd>=</kbd>
      </Button>
    </section>
  );
}

function Target({ target }: { readonly target: PairTarget }) {
  const { amount, payeeName, bankAccountName } = useBooks();
  const showDate = useShowDate();
  const { date, dueDate, payeeId } = target;
  const who = payeeName(payeeId) || bankAccountName(payeeId ?? '');
  return (
    <li>
      <b>{candidateName(target)}</b>
      <b className="num">{amount(Math.abs(target.amount))}</b>
      <span className="quiet">
        {[who, dueDate === null ? showDate(date) : t`${showDate(date)}, due ${showDate(dueDate)}`]
          .filter(Boolean)
          .join(', ')}
      </span>
    </li>
  );
}
