import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { ListedRule } from '@zubrell/contract/rules';
import type { RuleId } from '@zubrell/core/ids';
import { ruleWords } from '@zubrell/core/propose/rule/ruleWords';
import { nounOf, t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';
import { healthWords, keptWords } from './ruleShown.ts';
import { useRuleNames } from './useRuleNames.ts';

/** A rule in the list: its number, name and meaning, or what is wrong with it, and its record. */
export function RuleRow({
  rule,
  top,
  isCurrent,
  canMove,
  isTicked,
  numberOf,
  onTick,
}: {
  readonly rule: ListedRule;
  /** Its place in the list, in pixels. */
  readonly top: number;
  readonly isCurrent: boolean;
  readonly canMove: boolean;
  readonly isTicked: boolean;
  readonly numberOf: (ruleId: RuleId) => number | null;
  readonly onTick: (isTicked: boolean) => void;
}) {
  const { booksId } = useBooks();
  const names = useRuleNames();
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: rule.id,
    disabled: !canMove,
  });
  const [health] = rule.isOn ? rule.health : [];
  const lines = rule.used + rule.open;
  const shift = CSS.Transform.toString(transform);
  return (
    <li
      ref={setNodeRef}
      className={`rule-row ${rule.isOn ? '' : 'is-off'} ${isDragging ? 'dragged' : ''}`}
      style={{ top, ...(shift ? { transform: shift } : {}), ...(transition ? { transition } : {}) }}
    >
      <input
        type="checkbox"
        className="form-check-input"
        aria-label={t`Tick ${rule.name}`}
        checked={isTicked}
        onChange={({ target }) => onTick(target.checked)}
      />
      <button
        type="button"
        className="rule-no"
        {...attributes}
        {...listeners}
        tabIndex={-1}
        aria-label={t`Rule ${rule.number}, drag to move`}
      >
        {rule.number}
      </button>
      <Link
        to={`/books/${booksId}/rules/${rule.id}`}
        className="rule-name-and-words"
        aria-current={isCurrent ? 'page' : undefined}
      >
        <b>{rule.name}</b>
        <span className={`words ${health && health.kind !== 'overlaps' ? 'doubt' : ''}`}>
          {health && health.kind !== 'overlaps'
            ? healthWords(health, numberOf)
            : rule.isOn
              ? ruleWords(rule.body, names)
              : t`off · ${ruleWords(rule.body, names)}`}
        </span>
      </Link>
      <span className="rule-use">
        {rule.isOn || lines > 0 ? (
          <>
            <b>{lines}</b> {nounOf(lines, 'line', 'lines')}
            <br />
            {keptWords(rule)}
          </>
        ) : (
          t`off`
        )}
      </span>
    </li>
  );
}
