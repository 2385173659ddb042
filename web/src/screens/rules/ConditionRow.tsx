import { textFields, textTests } from '@zubrell/core/propose/rule/rule';
import { fieldNames, testNames } from '@zubrell/core/propose/rule/ruleWords';
import { t } from '@zubrell/core/words/t';
import { X } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { AmountField } from '../../ui/AmountField.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { tx } from '../../ui/tx.tsx';
import type { OneCondition } from './ruleDraft.ts';
import { emptyCondition } from './ruleDraft.ts';

type Text = Extract<OneCondition, { kind: 'text' }>;

const OTHERS = [
  ['amount', t`Amount`],
  ['date', t`Date`],
  ['day', t`Day of the month`],
] as const;

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** One thing that must hold of a line. */
export function ConditionRow({
  condition,
  onChange,
  onRemove,
}: {
  readonly condition: OneCondition;
  readonly onChange: (condition: OneCondition) => void;
  /** Null where it is the only one. */
  readonly onRemove: (() => void) | null;
}) {
  return (
    <>
      <select
        className="form-select"
        aria-label={t`Field`}
        value={condition.kind === 'text' ? condition.field : condition.kind}
        onChange={({ target }) => onChange(ofField(target.value, condition))}
      >
        {textFields.map((field) => (
          <option key={field} value={field}>
            {capital(fieldNames[field])}
          </option>
        ))}
        {OTHERS.map(([kind, name]) => (
          <option key={kind} value={kind}>
            {name}
          </option>
        ))}
      </select>
      {condition.kind === 'text' ? (
        <TextFields condition={condition} onChange={onChange} />
      ) : condition.kind === 'amount' ? (
        <AmountFields condition={condition} onChange={onChange} />
      ) : condition.kind === 'date' ? (
        <DateFields condition={condition} onChange={onChange} />
      ) : (
        <DayFields condition={condition} onChange={onChange} />
      )}
      {onRemove && (
        <Button
          variant="link"
          className="remove"
          aria-label={t`Remove condition`}
          onClick={onRemove}
        >
          <X size={14} />
        </Button>
      )}
    </>
  );
}

/** A condition on another field, with what was typed kept where it still means something. */
function ofField(field: string, before: OneCondition): OneCondition {
  if (field === 'amount') return { kind: 'amount', from: null, to: null };
  if (field === 'date') return { kind: 'date', from: null, to: null };
  if (field === 'day') return { kind: 'day', from: 1, to: 31 };
  const text = before.kind === 'text' ? before : (emptyCondition as Text);
  return { ...text, field: field as Text['field'] };
}

function TextFields({
  condition,
  onChange,
}: {
  readonly condition: Text;
  readonly onChange: (condition: OneCondition) => void;
}) {
  const { test, text, isExact } = condition;
  return (
    <>
      <select
        className="form-select"
        aria-label={t`Comparison`}
        value={test}
        onChange={({ target }) => onChange({ ...condition, test: target.value as Text['test'] })}
      >
        {textTests.map((each) => (
          <option key={each} value={each}>
            {each === 'has' || each === 'hasNot' ? t`${testNames[each]} the word` : testNames[each]}
          </option>
        ))}
      </select>
      {test !== 'isEmpty' && (
        <>
          <input
            className="form-control mono"
            aria-label={t`Value`}
            placeholder={test === 'looksLike' ? t`stag* fu?l` : t`word or words`}
            maxLength={200}
            value={text}
            onChange={({ target }) => onChange({ ...condition, text: target.value })}
          />
          <label className="exactly" title={t`Compares the characters as they are, not words`}>
            <input
              type="checkbox"
              className="form-check-input"
              checked={isExact}
              onChange={({ target }) => onChange({ ...condition, isExact: target.checked })}
            />
            {t`exactly`}
          </label>
        </>
      )}
    </>
  );
}

type Amount = Extract<OneCondition, { kind: 'amount' }>;
type AmountTest = 'is' | 'atLeast' | 'atMost' | 'between';

/** How a band of amounts reads; an empty one is taken as being typed. */
function amountTest({ from, to }: Amount): AmountTest {
  if (from !== null && to !== null) return from === to ? 'is' : 'between';
  return from === null && to !== null ? 'atMost' : 'atLeast';
}

function AmountFields({
  condition,
  onChange,
}: {
  readonly condition: Amount;
  readonly onChange: (condition: OneCondition) => void;
}) {
  const { from, to } = condition;
  const test = amountTest(condition);
  const one = from ?? to;
  const set = (wanted: AmountTest): void => {
    if (wanted === 'is') onChange({ kind: 'amount', from: one ?? 0, to: one ?? 0 });
    else if (wanted === 'atLeast') onChange({ kind: 'amount', from: one, to: null });
    else if (wanted === 'atMost') onChange({ kind: 'amount', from: null, to: one ?? 0 });
    else onChange({ kind: 'amount', from: one ?? 0, to: (one ?? 0) + 10_000 });
  };
  return (
    <>
      <select
        className="form-select"
        aria-label={t`Comparison of the amount`}
        value={test}
        onChange={({ target }) => set(target.value as AmountTest)}
      >
        <option value="is">{t`is`}</option>
        <option value="atLeast">{t`is at least`}</option>
        <option value="atMost">{t`is at most`}</option>
        <option value="between">{t`is between`}</option>
      </select>
      {test !== 'atMost' && (
        <AmountField
          label={t`Amount, without sign`}
          placeholder="0.00"
          value={from}
          onChange={(value) =>
            onChange({ ...condition, from: value, to: test === 'is' ? value : to })
          }
        />
      )}
      {test === 'between' && t`and`}
      {(test === 'between' || test === 'atMost') && (
        <AmountField
          label={t`Largest amount`}
          placeholder="0.00"
          value={to}
          onChange={(value) => onChange({ ...condition, to: value })}
        />
      )}
      <span className="quiet">{t`by size`}</span>
    </>
  );
}

function DateFields({
  condition,
  onChange,
}: {
  readonly condition: Extract<OneCondition, { kind: 'date' }>;
  readonly onChange: (condition: OneCondition) => void;
}) {
  const field = (end: 'from' | 'to', label: string) => (
    <DateField
      label={label}
      labelled="hidden"
      value={condition[end] ?? ''}
      onChange={(day) => onChange({ ...condition, [end]: day || null })}
    />
  );
  return <>{tx`from ${field('from', t`First day`)} to ${field('to', t`Last day`)}`}</>;
}

function DayFields({
  condition,
  onChange,
}: {
  readonly condition: Extract<OneCondition, { kind: 'day' }>;
  readonly onChange: (condition: OneCondition) => void;
}) {
  const field = (end: 'from' | 'to', label: string) => (
    <input
      type="number"
      className="form-control day"
      aria-label={label}
      min={1}
      max={31}
      value={condition[end]}
      onChange={({ target }) => onChange({ ...condition, [end]: Number(target.value) })}
    />
  );
  return (
    <>
      {tx`from ${field('from', t`First day of the month`)} to ${field('to', t`Last day of the month`)}`}
    </>
  );
}
