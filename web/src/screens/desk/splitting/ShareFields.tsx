import type { DraftPart } from '@zubrell/contract/coding';
import { t } from '@zubrell/core/words/t';
import { AmountField } from '../../../ui/AmountField.tsx';

type Share = DraftPart['share'];

const KINDS = [
  ['fixed', t`Amount`],
  ['percent', t`Percent`],
  ['rest', t`The rest`],
  ['grossUp', t`Percent kept back before`],
] as const;

const WHOLE = 10_000;

/** How much of a line a part takes: an amount, a percentage, or what is left. */
export function ShareFields({
  share,
  number,
  amount,
  amountLabel = t`Amount of part ${number}`,
  isOut = false,
  onChange,
}: {
  readonly share: Share;
  /** Counted from 1. */
  readonly number: number;
  /** What it comes to, with which a fixed amount begins; null while that is not known. */
  readonly amount: number | null;
  readonly amountLabel?: string;
  /** Whether the line is paid out, as are its parts unless they say otherwise. */
  readonly isOut?: boolean;
  readonly onChange: (share: Share) => void;
}) {
  const empty = (kind: Share['kind']): Share => {
    if (kind === 'fixed') return { kind, amount: amount ?? 0 };
    return kind === 'rest' ? { kind } : { kind, basisPoints: 0 };
  };
  return (
    <>
      <select
        className="form-select form-select-sm"
        aria-label={t`Part ${number} is`}
        value={share.kind}
        onChange={({ target }) => onChange(empty(target.value as Share['kind']))}
      >
        {KINDS.map(([kind, name]) => (
          <option key={kind} value={kind}>
            {name}
          </option>
        ))}
      </select>
      {share.kind === 'fixed' && (
        <AmountField
          label={amountLabel}
          value={share.amount}
          isOut={isOut}
          onChange={(value) => onChange({ kind: 'fixed', amount: value ?? 0 })}
        />
      )}
      {(share.kind === 'percent' || share.kind === 'grossUp') && (
        <input
          type="number"
          className="form-control form-control-sm percent num"
          aria-label={t`Percent of part ${number}`}
          min={0}
          max={100}
          step={0.01}
          value={share.basisPoints / 100}
          onChange={({ target }) => {
            const basisPoints = Math.round(Number(target.value) * 100);
            const inRange = Math.min(Math.max(basisPoints, 0), WHOLE - 1);
            const whole = share.kind === 'percent' && basisPoints >= WHOLE ? WHOLE : inRange;
            onChange({ kind: share.kind, basisPoints: whole });
          }}
        />
      )}
    </>
  );
}
