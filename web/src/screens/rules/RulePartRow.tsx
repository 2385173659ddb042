import { X } from 'lucide-react';
import { useBooks } from '../../app/useBooks.ts';
import { AmountField } from '../../ui/AmountField.tsx';
import { CostObjectFields } from '../desk/CostObjectFields.tsx';
import { AccountAndTax } from './AccountAndTax.tsx';
import type { DraftRulePart } from './ruleDraft.ts';

type Share = DraftRulePart['share'];

const KINDS = [
  ['rest', 'the rest'],
  ['percent', 'percent'],
  ['fixed', 'amount'],
  ['grossUp', 'percent kept back before'],
] as const;

function shareOf(kind: Share['kind']): Share {
  if (kind === 'rest') return { kind };
  return kind === 'fixed' ? { kind, amount: 0 } : { kind, basisPoints: 0 };
}

/** A part of what a rule codes: how much of each line, to which account. */
export function RulePartRow({
  number,
  part,
  onChange,
  onRemove,
}: {
  readonly number: number;
  readonly part: DraftRulePart;
  readonly onChange: (part: DraftRulePart) => void;
  readonly onRemove: () => void;
}) {
  const { setup } = useBooks();
  const { share } = part;
  return (
    <fieldset>
      <legend className="visually-hidden">Part {number}</legend>
      <div className="sentence">
        <select
          className="form-select"
          aria-label={`Part ${number} is`}
          value={share.kind}
          onChange={({ target }) =>
            onChange({ ...part, share: shareOf(target.value as Share['kind']) })
          }
        >
          {KINDS.map(([kind, text]) => (
            <option key={kind} value={kind}>
              {text}
            </option>
          ))}
        </select>
        {share.kind === 'fixed' && (
          <AmountField
            label={`Amount of part ${number}, with the sign of the line`}
            value={share.amount}
            onChange={(amount) =>
              onChange({ ...part, share: { kind: 'fixed', amount: amount ?? 0 } })
            }
          />
        )}
        {(share.kind === 'percent' || share.kind === 'grossUp') && (
          <input
            type="number"
            className="form-control day num"
            aria-label={`Percent of part ${number}`}
            min={0}
            max={100}
            step="0.01"
            value={share.basisPoints / 100}
            onChange={({ target }) =>
              onChange({
                ...part,
                share: { ...share, basisPoints: Math.round(Number(target.value) * 100) },
              })
            }
          />
        )}
        <AccountAndTax part={part} onChange={onChange} />
        <button
          type="button"
          className="btn btn-link remove"
          aria-label={`Take part ${number} out`}
          onClick={onRemove}
        >
          <X size={14} />
        </button>
      </div>
      {setup.costObjects.length > 0 && (
        <CostObjectFields coding={part} onChange={(objects) => onChange({ ...part, ...objects })} />
      )}
    </fieldset>
  );
}
