import { t } from '@zubrell/core/words/t';
import { X } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { useBooks } from '../../app/useBooks.ts';
import { CostObjectFields } from '../desk/CostObjectFields.tsx';
import { ShareFields } from '../desk/splitting/ShareFields.tsx';
import { AccountAndTax } from './AccountAndTax.tsx';
import type { DraftRulePart } from './ruleDraft.ts';

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
  return (
    <fieldset>
      <legend className="visually-hidden">{t`Part ${number}`}</legend>
      <div className="sentence">
        <ShareFields
          share={part.share}
          number={number}
          amount={null}
          amountLabel={t`Amount of part ${number}, with the sign of the line`}
          onChange={(share) => onChange({ ...part, share })}
        />
        <AccountAndTax part={part} onChange={onChange} />
        <Button
          variant="link"
          className="remove"
          aria-label={t`Remove part ${number}`}
          onClick={onRemove}
        >
          <X size={14} />
        </Button>
      </div>
      {setup.costObjects.length > 0 && (
        <CostObjectFields coding={part} onChange={(objects) => onChange({ ...part, ...objects })} />
      )}
    </fieldset>
  );
}
