import type { DraftPart } from '@zubrell/contract/coding';
import type { PayeeId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { ClientField } from '../../../app/ClientField.tsx';
import { useBooks } from '../../../app/useBooks.ts';
import { CodingInput } from '../CodingInput.tsx';
import { CostObjectFields } from '../CostObjectFields.tsx';
import { ShareFields } from './ShareFields.tsx';

/** One part of a split: how much of the line, to which account, with which tax. */
export function SplitPartRow({
  number,
  part,
  amount,
  isOut,
  isOfClient = false,
  payeeId = null,
  onChange,
  onNext = () => undefined,
  onRemove,
}: {
  readonly number: number;
  readonly part: DraftPart;
  /** What it comes to; null while the parts don't add up. */
  readonly amount: number | null;
  readonly isOut: boolean;
  /** Whether it is on a bank account that holds clients' money. */
  readonly isOfClient?: boolean;
  /** Who pays or is paid. */
  readonly payeeId?: PayeeId | null;
  readonly onChange: (part: DraftPart) => void;
  /** Enter was pressed in a field that takes it for itself. */
  readonly onNext?: (() => void) | undefined;
  readonly onRemove: (() => void) | undefined;
}) {
  const books = useBooks();
  const { share } = part;
  const asCoding = { ...part, payeeId: null, note: null, parts: null };
  const line = { isOut };
  const nothingMore = () => undefined;
  return (
    <fieldset className="split-part">
      <legend className="visually-hidden">{t`Part ${number}`}</legend>
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
        onNext={onNext}
        onCancel={nothingMore}
      />
      <CodingInput
        field="taxCodeId"
        coding={asCoding}
        line={line}
        onChange={({ taxCodeId }) => onChange({ ...part, taxCodeId, tax: null })}
        onNext={onNext}
        onCancel={nothingMore}
      />
      {onRemove ? (
        <Button variant="link" aria-label={t`Remove part ${number}`} onClick={onRemove}>
          ✕
        </Button>
      ) : (
        <span />
      )}
      <div className="part-objects">
        {isOfClient && (
          <div className="coding-form mt-1">
            <div className="field">
              <span>{t`Client`}</span>
              <ClientField
                label={t`Client of part ${number}`}
                payeeId={payeeId}
                value={part.clientId ?? null}
                onChange={(clientId) => onChange({ ...part, clientId })}
              />
            </div>
          </div>
        )}
        <CostObjectFields
          coding={part}
          part={t`of part ${number}`}
          onChange={(objects) => onChange({ ...part, ...objects })}
        />
      </div>
    </fieldset>
  );
}
