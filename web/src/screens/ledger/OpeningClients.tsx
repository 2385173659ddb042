import type { ClientShare } from '@zubrell/contract/books';
import type { PayeeId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { ClientField } from '../../app/ClientField.tsx';
import { AmountField } from '../../ui/AmountField.tsx';

/** How much of an opening balance is whose, as it is being typed. */
export interface DraftShare {
  readonly clientId: PayeeId | null;
  readonly amount: number | null;
}

/** The shares that are whole. */
export function sharesOf(drafts: readonly DraftShare[]): ClientShare[] {
  return drafts.flatMap(({ clientId, amount }) =>
    clientId === null || amount === null ? [] : [{ clientId, amount }],
  );
}

/** Whose money an opening balance is; what is left out is nobody's yet. */
export function OpeningClients({
  shares,
  onChange,
}: {
  readonly shares: readonly DraftShare[];
  readonly onChange: (shares: readonly DraftShare[]) => void;
}) {
  const put = (at: number, change: Partial<DraftShare>) =>
    onChange(shares.map((share, each) => (each === at ? { ...share, ...change } : share)));
  return (
    <fieldset className="opening-clients">
      <legend className="small-heading">{t`Whose money it is`}</legend>
      {shares.map((share, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a share is known by its place
        <div key={at} className="d-flex gap-2 mb-1">
          <ClientField
            label={t`Client ${at + 1}`}
            payeeId={null}
            value={share.clientId}
            onChange={(clientId) => put(at, { clientId })}
          />
          <AmountField
            label={t`Amount of client ${at + 1}`}
            placeholder="0.00"
            value={share.amount}
            onChange={(amount) => put(at, { amount })}
          />
        </div>
      ))}
      <Button
        variant="plain"
        onClick={() => onChange([...shares, { clientId: null, amount: null }])}
      >
        {t`Add a client`}
      </Button>
    </fieldset>
  );
}
