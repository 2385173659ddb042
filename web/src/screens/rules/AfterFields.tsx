import { KEPT_TO_POST, type RuleBody } from '@zubrell/core/propose/rule/rule';
import { t } from '@zubrell/core/words/t';
import { AmountField } from '../../ui/AmountField.tsx';

/** Whether the lines of a rule wait for a look or are posted at once, which opens once it has proved itself. */
export function AfterFields({
  after,
  canPost,
  keptInRow,
  onChange,
}: {
  readonly after: RuleBody['after'];
  /** Whether it is something that can be posted. */
  readonly canPost: boolean;
  readonly keptInRow: number;
  readonly onChange: (after: RuleBody['after']) => void;
}) {
  const isOpen = canPost && (keptInRow >= KEPT_TO_POST || after.kind === 'post');
  return (
    <>
      <select
        className="form-select"
        aria-label={t`And then`}
        value={after.kind}
        onChange={({ target }) =>
          onChange(target.value === 'post' ? { kind: 'post', largest: null } : { kind: 'hold' })
        }
      >
        <option value="hold">
          {canPost ? t`Keep in Ready until you post it` : t`Keep in Check until you post it`}
        </option>
        <option value="post" disabled={!isOpen}>
          {t`post at once`}
        </option>
      </select>
      {after.kind === 'post' ? (
        <>
          {t`up to`}
          <AmountField
            label={t`Largest amount that is posted at once`}
            placeholder={t`any amount`}
            value={after.largest}
            onChange={(largest) => onChange({ kind: 'post', largest: largest || null })}
          />
        </>
      ) : (
        canPost && (
          <span className="quiet">
            {isOpen
              ? t`${keptInRow} kept in a row: it may post at once`
              : t`posting at once is available after ${KEPT_TO_POST} kept in a row${keptInRow > 0 ? t`, so far ${keptInRow}` : ''}`}
          </span>
        )
      )}
    </>
  );
}
