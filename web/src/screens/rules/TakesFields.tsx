import type { RuleTakes } from '@zubrell/contract/rules';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { BankAccountsPicker } from './BankAccountsPicker.tsx';
import { ConditionRow } from './ConditionRow.tsx';
import {
  type AnyCondition,
  emptyCondition,
  type OneCondition,
  withConditionAt,
} from './ruleDraft.ts';

const DIRECTIONS = [
  ['out', t`lines paid out`],
  ['in', t`lines paid in`],
  ['either', t`lines in and out`],
] as const;

/** Which lines a rule takes: direction, bank accounts, and conditions in one level of groups. */
export function TakesFields({
  takes,
  onChange,
}: {
  readonly takes: RuleTakes;
  readonly onChange: (takes: RuleTakes) => void;
}) {
  const { direction, bankAccountIds, match, conditions } = takes;
  const put = (next: readonly AnyCondition[]) => onChange({ ...takes, conditions: [...next] });
  return (
    <>
      <div className="sentence">
        <span className="lab">{t`Takes`}</span>
        <select
          className="form-select"
          aria-label={t`Direction`}
          value={direction}
          onChange={({ target }) =>
            onChange({ ...takes, direction: target.value as RuleTakes['direction'] })
          }
        >
          {DIRECTIONS.map(([value, text]) => (
            <option key={value} value={value}>
              {text}
            </option>
          ))}
        </select>
        {t`on`}
        <BankAccountsPicker
          ids={bankAccountIds}
          onChange={(ids) => onChange({ ...takes, bankAccountIds: ids })}
        />
        {t`when`}
        <MatchSelect match={match} onChange={(next) => onChange({ ...takes, match: next })} />
        {t`hold`}
      </div>
      {conditions.map((condition, at) => (
        <div
          className={condition.kind === 'group' ? 'condition-group' : 'sentence'}
          // biome-ignore lint/suspicious/noArrayIndexKey: a condition is known by its place
          key={at}
        >
          {condition.kind === 'group' ? (
            <GroupFields
              group={condition}
              onChange={(next) => put(withConditionAt(conditions, at, next))}
            />
          ) : (
            <>
              <span className="lab" />
              <ConditionRow
                condition={condition}
                onChange={(next) => put(withConditionAt(conditions, at, next))}
                onRemove={
                  conditions.length > 1 ? () => put(withConditionAt(conditions, at, null)) : null
                }
              />
            </>
          )}
        </div>
      ))}
      <div className="sentence">
        <span className="lab" />
        <Button variant="plain" onClick={() => put([...conditions, emptyCondition])}>
          {t`+ condition`}
        </Button>
        <Button
          variant="plain"
          onClick={() =>
            put([
              ...conditions,
              {
                kind: 'group',
                match: match === 'all' ? 'any' : 'all',
                conditions: [emptyCondition],
              },
            ])
          }
        >
          {t`+ group`}
        </Button>
        <span className="quiet">{t`case, spacing, punctuation and accents are ignored`}</span>
      </div>
    </>
  );
}

function MatchSelect({
  match,
  onChange,
}: {
  readonly match: 'all' | 'any';
  readonly onChange: (match: 'all' | 'any') => void;
}) {
  return (
    <select
      className="form-select"
      aria-label={t`All or any of the conditions`}
      value={match}
      onChange={({ target }) => onChange(target.value as 'all' | 'any')}
    >
      <option value="all">{t`all`}</option>
      <option value="any">{t`any`}</option>
    </select>
  );
}

/** Conditions of which all or any must hold; with the last of them the group goes. */
function GroupFields({
  group,
  onChange,
}: {
  readonly group: Extract<AnyCondition, { kind: 'group' }>;
  readonly onChange: (group: AnyCondition | null) => void;
}) {
  const put = (conditions: readonly OneCondition[]) =>
    onChange(conditions.length === 0 ? null : { ...group, conditions });
  return (
    <fieldset>
      <legend className="visually-hidden">{t`A group of conditions`}</legend>
      <div className="sentence">
        <MatchSelect match={group.match} onChange={(match) => onChange({ ...group, match })} />
        {t`of these`}
        <Button variant="plain" onClick={() => put([...group.conditions, emptyCondition])}>
          {t`+ condition`}
        </Button>
      </div>
      {group.conditions.map((condition, at) => (
        <div
          className="sentence"
          // biome-ignore lint/suspicious/noArrayIndexKey: a condition is known by its place
          key={at}
        >
          <ConditionRow
            condition={condition}
            onChange={(next) => put(withConditionAt(group.conditions, at, next))}
            onRemove={() => put(withConditionAt(group.conditions, at, null))}
          />
        </div>
      ))}
    </fieldset>
  );
}
