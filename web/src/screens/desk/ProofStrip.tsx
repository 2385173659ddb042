import { Link } from 'react-router';
import { api } from '../../app/api.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useDeskScope } from './useDeskScope.ts';

/** The equation between bank and books, term for term, and what it leaves unexplained. */
export function ProofStrip() {
  const { booksId, setup, amount } = useBooks();
  const { scope, bankAccountId, change } = useDeskScope();
  const showDate = useShowDate();
  const { data } = api.useProofQuery({ booksId, scope });
  const proof = data?.proof;
  if (!proof) {
    return (
      <section className="proof" aria-label="Proof">
        <span className="quiet">{data ? 'Nothing to prove yet.' : ''}</span>
      </section>
    );
  }
  const ledgerAccount = setup.bankAccounts.find((bank) => bank.id === bankAccountId)?.accountId;
  const says = proof.isStated ? 'Bank says' : 'Calculated, not proved';
  return (
    <section className="proof" aria-label="Proof">
      <Term label={`${says}, ${showDate(proof.date)}`} value={amount(proof.bank)} />
      <span className="op">−</span>
      <Term
        label={`Open, ${proof.openCount} ${proof.openCount === 1 ? 'line' : 'lines'}`}
        value={amount(proof.open)}
        onOpen={() => change({ lane: 'blank' })}
      />
      <span className="op">−</span>
      <Term
        label="Kept out but real"
        value={amount(proof.keptOut)}
        onOpen={() => change({ lane: 'decided', decision: 'excluded' })}
      />
      <span className="op">+</span>
      <Term
        label={`Not yet at the bank, ${proof.outstandingCount}`}
        value={amount(proof.outstanding)}
      />
      <span className="op">=</span>
      <Term label="Books should say" value={amount(proof.shouldSay)} />
      <span className="op">·</span>
      {ledgerAccount ? (
        <Link to={`/books/${booksId}/ledger/${ledgerAccount}`} className="term">
          <small>Books say</small>
          <b>{amount(proof.books)}</b>
        </Link>
      ) : (
        <Term label="Books say" value={amount(proof.books)} />
      )}
      <span className={`verdict ${proof.unexplained === 0 ? '' : 'off'}`} role="status">
        Unexplained {amount(proof.unexplained)} {proof.unexplained === 0 ? '✓' : ''}
      </span>
    </section>
  );
}

function Term({
  label,
  value,
  onOpen,
}: {
  readonly label: string;
  readonly value: string;
  readonly onOpen?: () => void;
}) {
  const content = (
    <>
      <small>{label}</small>
      <b>{value}</b>
    </>
  );
  return onOpen ? (
    <button type="button" className="term" onClick={onOpen}>
      {content}
    </button>
  ) : (
    <span className="term">{content}</span>
  );
}
