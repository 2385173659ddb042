import type { DraftPart } from '@zubrell/contract/coding';
import { Button } from 'react-bootstrap';
import { useBooks } from '../../app/useBooks.ts';
import { CodingInput } from './CodingInput.tsx';
import { CostObjectFields } from './CostObjectFields.tsx';
import { ShareFields } from './ShareFields.tsx';

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
      <ShareFields
        share={share}
        number={number}
        amount={amount}
        isOut={isOut}
        onChange={(changed) => onChange({ ...part, share: changed })}
      />
      {share.kind === 'rest' && <span />}
      <span className="num">{amount !== null && books.amount(amount, { plus: true })}</span>
      <CodingInput
        field="accountId"
        coding={asCoding}
        line={line}
        onChange={({ accountId }) =>
          onChange({
            ...part,
            accountId,
            taxCodeId: books.takesTax(accountId) ? part.taxCodeId : null,
          })
        }
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
        <Button variant="link" aria-label={`Remove part ${number}`} onClick={onRemove}>
          ✕
        </Button>
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
