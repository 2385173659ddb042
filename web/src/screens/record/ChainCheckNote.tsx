import type { ChainCheck, ChainFault } from '@zubrell/contract/audit';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { auditApi } from '../../api/audit.ts';
import { formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { tx } from '../../ui/tx.tsx';

const ROWS: Readonly<Record<ChainCheck['chain'], readonly [one: string, all: string]>> = {
  steps: [t`Step`, 'steps'],
  records: [t`Record`, 'records'],
  signIns: [t`Sign-in`, 'sign-ins'],
};
const FAULTS: Readonly<Record<ChainFault['what'], string>> = {
  changed: t`or the one before it was changed`,
  missing: t`is missing`,
  open: t`was never sealed`,
  forgotten: t`has lost its address and names`,
};
/** So many faults are named. */
const NAMED = 5;

/** Goes through the chains when asked, and says whether anything was changed. */
export function ChainCheckNote() {
  const { booksId } = useBooks();
  const [check, { data, error, isFetching }] = auditApi.useLazyCheckChainsQuery();
  return (
    <div className="chain-check">
      <Button variant="plain" disabled={isFetching} onClick={() => void check(booksId)}>
        {isFetching ? t`Checking …` : t`Check for changes`}
      </Button>
      <div role="status">
        {error && <ErrorNote error={error} />}
        {data?.chains.map((chain) => (
          <ChainResult key={chain.chain} check={chain} />
        ))}
      </div>
    </div>
  );
}

function ChainResult({ check: { chain, count, faults, head } }: { readonly check: ChainCheck }) {
  const [one, all] = ROWS[chain];
  if (faults.length === 0 && count === 0) return <p>{t`There are no ${all} yet.`}</p>;
  if (faults.length === 0) {
    return (
      <p>
        {tx`All ${formatCount(count)} ${all} are unchanged. ${(
          <span className="quiet" title={head}>
            {tx`Hash at the end: ${<span className="mono">{head.slice(0, 16)}…</span>}`}
          </span>
        )}`}
      </p>
    );
  }
  const rest = faults.length - NAMED;
  return (
    <p className="trouble">
      {faults
        .slice(0, NAMED)
        .map(({ no, what }) => `${one} ${no} ${FAULTS[what]}.`)
        .join(' ')}
      {rest > 0 && ` ${t`${rest} more have been changed.`}`}
    </p>
  );
}
