import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useBooks } from '../../app/useBooks.ts';
import { AmountField } from '../../ui/AmountField.tsx';
import type { HandDraft } from './handForm.ts';
import { AccountAndTaxFields } from './PartFields.tsx';

type Legs = HandDraft['legs'];

/** The legs of a journal: an account and a debit or a credit each, with what they are still off. */
export function JournalLegs({
  legs,
  onChange,
}: {
  readonly legs: Legs;
  readonly onChange: (legs: Legs) => void;
}) {
  const { amount } = useBooks();
  const off = legs.reduce((sum, leg) => sum + (leg.amount ?? 0), 0);
  const set = (at: number, part: Partial<Legs[number]>) =>
    onChange(legs.map((leg, place) => (place === at ? { ...leg, ...part } : leg)));
  return (
    <div className="journal-legs">
      <div className="head small-heading" aria-hidden>
        <span>{t`Account`}</span>
        <span className="num">{t`Debit`}</span>
        <span className="num">{t`Credit`}</span>
      </div>
      {legs.map((leg, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: legs have no id and keep their places
        <div key={at}>
          <AccountAndTaxFields
            label={t`of leg ${at + 1}`}
            isTaxed={false}
            accountId={leg.accountId}
            taxCodeId={null}
            onChange={(accountId) => set(at, { accountId })}
          />
          <AmountField
            label={t`Debit of leg ${at + 1}`}
            value={leg.amount !== null && leg.amount > 0 ? leg.amount : null}
            onChange={(value) => set(at, { amount: value })}
          />
          <AmountField
            label={t`Credit of leg ${at + 1}`}
            value={leg.amount !== null && leg.amount < 0 ? -leg.amount : null}
            onChange={(value) => set(at, { amount: value === null ? null : -value })}
          />
        </div>
      ))}
      <div className="foot">
        <Button
          variant="link"
          onClick={() => onChange([...legs, { accountId: null, amount: off === 0 ? null : -off }])}
        >
          {t`Add leg`}
        </Button>
        {off !== 0 && <span className="doubt">{t`Off by ${amount(Math.abs(off))}`}</span>}
      </div>
    </div>
  );
}
