import type { DraftPart } from '@zubrell/contract/coding';
import { useBooks } from '../../app/useBooks.ts';
import { AmountField } from '../../ui/AmountField.tsx';
import { CodingInput } from './CodingInput.tsx';
import { CostObjectFields } from './CostObjectFields.tsx';

const KINDS = [
  ['fixed', 'Amount'],
  ['percent', 'Percent'],
  ['rest', 'The rest'],
  ['grossUp', 'Percent kept back before'],
] as const;
type Kind = (typeof KINDS)[number][0];

const WHOLE = 10_000;

function shareOf(kind: Kind, amount: number | null): DraftPart['share'] {
  if (kind === 'fixed') return { kind, amount: amount ?? 0 };
  return kind === 'rest' ? { kind } : { kind, basisPoints: 0 };
}

/** One part of a split: how much of the line, to which account, with which tax. */
export function SplitPartRow({
  number,
  part,
  amount,
  isOut,
  onChange,
  onRemove,
}: {
  readonly number: number;
  readonly part: DraftPart;
  /** What it comes to; null while the parts don't add up. */
  readonly amount: number | null;
  readonly isOut: boolean;
  readonly onChange: (part: DraftPart) => void;
  readonly onRemove: (() => void) | undefined;
}) {
  const books = useBooks();
  const { share } = part;
  const asCoding = { ...part, payeeId: null, note: null, parts: null };
  const line = { isOut };
  const nothingMore = () => undefined;
  return (
    <fieldset className="split-part">
      <legend className="visually-hidden">Part {number}</legend>
      <select
        className="form-select form-select-sm"
        aria-label={`Part ${number} is`}
        value={share.kind}
        onChange={({ target }) =>
          onChange({ ...part, share: shareOf(target.value as Kind, amount) })
        }
      >
        {KINDS.map(([kind, name]) => (
          <option key={kind} value={kind}>
            {name}
          </option>
        ))}
      </select>
      {share.kind === 'fixed' && (
        <AmountField
          label={`Amount of part ${number}`}
          value={share.amount}
          onChange={(value) => onChange({ ...part, share: { kind: 'fixed', amount: value ?? 0 } })}
        />
      )}
      {(share.kind === 'percent' || share.kind === 'grossUp') && (
        <input
          type="number"
          className="form-control form-control-sm num"
          aria-label={`Percent of part ${number}`}
          min={0}
          max={100}
          step={0.01}
          value={share.basisPoints / 100}
          onChange={({ target }) => {
            const basisPoints = Math.round(Number(target.value) * 100);
            const inRange = Math.min(Math.max(basisPoints, 0), WHOLE - 1);
            const whole = share.kind === 'percent' && basisPoints >= WHOLE ? WHOLE : inRange;
            onChange({ ...part, share: { kind: share.kind, basisPoints: whole } });
          }}
        />
      )}
      {share.kind === 'rest' && <span />}
      <span className="num">{amount !== null && books.amount(amount, { plus: true })}</span>
      <CodingInput
        field="accountId"
        coding={asCoding}
        line={line}
        onChange={({ accountId }) => onChange({ ...part, accountId })}
        onNext={nothingMore}
        onCancel={nothingMore}
      />
      <CodingInput
        field="taxCodeId"
        coding={asCoding}
        line={line}
        onChange={({ taxCodeId }) => onChange({ ...part, taxCodeId, tax: null })}
        onNext={nothingMore}
        onCancel={nothingMore}
      />
      {onRemove ? (
        <button
          type="button"
          className="btn btn-link"
          aria-label={`Remove part ${number}`}
          onClick={onRemove}
        >
          ✕
        </button>
      ) : (
        <span />
      )}
      <div className="part-objects">
        <CostObjectFields
          coding={part}
          part={`of part ${number}`}
          onChange={(objects) => onChange({ ...part, ...objects })}
        />
      </div>
    </fieldset>
  );
}
