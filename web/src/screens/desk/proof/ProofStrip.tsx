import type { Proof } from '@zubrell/contract/desk';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Link } from 'react-router';
import { linesApi } from '../../../api/lines.ts';
import { counted, countLines, formatCount } from '../../../app/formats.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { useShowDate } from '../../../app/useToday.ts';
import { lateDialog } from '../../../ui/late.tsx';
import { tx } from '../../../ui/tx.tsx';
import { proofScope } from '../deskScope.ts';
import { useDeskScope } from '../useDeskScope.ts';
import { bankLabel, verdictOf } from './proofWords.ts';

const OutstandingDialog = lateDialog(
  async () => (await import('./OutstandingDialog.tsx')).OutstandingDialog,
);
const CausesDialog = lateDialog(async () => (await import('./CausesDialog.tsx')).CausesDialog);

/** The equation between bank and books, term for term, and what it leaves unexplained. */
export function ProofStrip() {
  const { booksId, setup, amount } = useBooks();
  const { scope, bankAccountId, change } = useDeskScope();
  const showDate = useShowDate();
  const { data } = linesApi.useProofQuery({ booksId, ...proofScope(scope) });
  const [shown, setShown] = useState<'causes' | 'outstanding' | null>(null);
  const proof = data?.proof;
  if (!proof) {
    return (
      <section className="proof" aria-label={t`Proof`}>
        <span className="quiet">{data ? t`Nothing to prove yet.` : ''}</span>
      </section>
    );
  }
  const { currency } = proof;
  const ledgerAccount = setup.bankAccounts.find((bank) => bank.id === bankAccountId)?.accountId;
  return (
    <section className="proof" aria-label={t`Proof`}>
      {proof.otherCount > 0 && (
        <span
          className="quiet"
          title={t`Choose an account in another currency to see its own proof`}
        >
          {t`without ${counted(proof.otherCount, 'account', 'accounts')} in other currencies:`}
        </span>
      )}
      <Term label={bankLabel(proof, showDate)} value={amount(proof.bank, { currency })} />
      <span className="op">−</span>
      <Term
        label={t`Open, ${countLines(proof.openCount)}`}
        value={amount(proof.open, { currency })}
        onOpen={() => change({ lane: 'blank' })}
      />
      <span className="op">−</span>
      <Term
        label={t`Excluded but real`}
        value={amount(proof.keptOut, { currency })}
        onOpen={() => change({ lane: 'decided', decision: 'excluded' })}
      />
      <span className="op">+</span>
      <Term
        label={t`Not yet at the bank, ${formatCount(proof.outstandingCount)}`}
        value={amount(proof.outstanding, { currency })}
        {...(proof.outstandingCount > 0 ? { onOpen: () => setShown('outstanding') } : {})}
      />
      <span className="op">=</span>
      <Term label={t`Books should say`} value={amount(proof.shouldSay, { currency })} />
      <span className="op">·</span>
      {ledgerAccount ? (
        <Link to={`/books/${booksId}/ledger/${ledgerAccount}`} className="term">
          <small>{t`Books say`}</small>
          <b>{amount(proof.books, { currency })}</b>
        </Link>
      ) : (
        <Term label={t`Books say`} value={amount(proof.books, { currency })} />
      )}
      <ProofVerdict proof={proof} onOpen={() => setShown('causes')} />
      {shown === 'causes' && <CausesDialog proof={proof} onClose={() => setShown(null)} />}
      {shown === 'outstanding' && (
        <OutstandingDialog scope={scope} onClose={() => setShown(null)} />
      )}
    </section>
  );
}

/** How the proof ends: only a balance that the bank stated, with nothing unexplained, gets a tick. */
function ProofVerdict({ proof, onOpen }: { readonly proof: Proof; readonly onOpen: () => void }) {
  const { amount } = useBooks();
  switch (verdictOf(proof)) {
    case 'proved':
      return (
        <span className="verdict" role="status">
          {t`Unexplained ${amount(0, { currency: proof.currency })} ✓`}
        </span>
      );
    case 'calculated':
      return (
        <span className="verdict calculated" role="status">
          {t`Calculated, not proved`}
        </span>
      );
    case 'unexplained':
      return (
        <button type="button" className="verdict off" onClick={onOpen}>
          {t`Unexplained ${amount(proof.unexplained, { currency: proof.currency })}`}
          {tx`${proof.unexplained === 0 && t`, causes cancel`}: why?`}
        </button>
      );
  }
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
