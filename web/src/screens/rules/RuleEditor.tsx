import type { ListedRule } from '@zubrell/contract/rules';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { rulesApi } from '../../api/rules.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { AfterFields } from './AfterFields.tsx';
import { ResultFields } from './ResultFields.tsx';
import { RuleMenu } from './RuleMenu.tsx';
import { bodyToSave, draftOfRule, followRule, type RuleDraft } from './ruleDraft.ts';
import { healthWords } from './ruleShown.ts';
import { TakesFields } from './TakesFields.tsx';
import { TryOut } from './TryOut.tsx';
import { useRulesStep } from './useRulesStep.ts';

/** A rule as a sentence that is filled in, with what it would do below. */
export function RuleEditor({
  rule,
  rules,
  start,
}: {
  /** Null for a new one. */
  readonly rule: ListedRule | null;
  readonly rules: readonly ListedRule[];
  readonly start: RuleDraft;
}) {
  const { booksId } = useBooks();
  const navigate = useNavigate();
  const { told } = useUndo();
  const [{ opened, draft }, setEditing] = useState({ opened: rule, draft: start });
  const setDraft = (changed: RuleDraft) => setEditing({ opened, draft: changed });
  if (rule && opened) {
    const followed = followRule({ opened, draft }, rule);
    if (followed.opened !== opened) setEditing(followed);
  }
  const isBehind = rule && opened && rule.lastStep > opened.lastStep;
  const [createRule, creating] = rulesApi.useCreateRuleMutation();
  const [changeRule, changing] = rulesApi.useChangeRuleMutation();
  const seenStep = useRulesStep();
  const complete = bodyToSave(draft);
  const path = `/books/${booksId}/rules`;
  const numberOf = (id: string) => rules.find((each) => each.id === id)?.number ?? null;

  async function save(): Promise<void> {
    if ('missing' in complete) return;
    const { name, isOn } = draft;
    const wanted = { booksId, name: name.trim(), isOn, body: complete.body };
    const answer = opened
      ? await changeRule({ ...wanted, ruleId: opened.id, seenStep: opened.lastStep })
      : await createRule({ ...wanted, seenStep });
    if (told(answer) && answer.data) navigate(`${path}/${answer.data.id}`);
  }

  return (
    <section className="rule-editor" aria-label={rule ? `Rule ${rule.name}` : 'New rule'}>
      <form
        className="rule-form"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <div className="sentence">
          <input
            className="form-control rule-name"
            aria-label="Name of the rule"
            placeholder="What it is called"
            maxLength={100}
            value={draft.name}
            // biome-ignore lint/a11y/noAutofocus: a new rule begins with its name
            autoFocus={rule === null && draft.name === ''}
            onChange={({ target }) => setDraft({ ...draft, name: target.value })}
          />
          <select
            className="form-select on-off"
            aria-label="The rule is"
            value={draft.isOn ? 'on' : 'off'}
            onChange={({ target }) => setDraft({ ...draft, isOn: target.value === 'on' })}
          >
            <option value="on">On</option>
            <option value="off">Off</option>
          </select>
          {rule && <RuleMenu rule={rule} />}
        </div>
        {rule?.health.map((health) => (
          <p key={health.kind} className="doubt mb-0" role="status">
            {sentence(healthWords(health, numberOf))}
          </p>
        ))}
        {isBehind && (
          <p className="doubt mb-0" role="status">
            It was changed elsewhere since you began to type.{' '}
            <Button
              variant="link"
              onClick={() => setEditing({ opened: rule, draft: draftOfRule(rule) })}
            >
              Show what it says now
            </Button>
          </p>
        )}
        <TakesFields takes={draft.takes} onChange={(takes) => setDraft({ ...draft, takes })} />
        <ResultFields result={draft.result} onChange={(result) => setDraft({ ...draft, result })} />
        <div className="sentence">
          <span className="lab">And</span>
          <AfterFields
            after={draft.after}
            canPost={draft.result.kind === 'code' || draft.result.kind === 'transfer'}
            keptInRow={rule?.keptInRow ?? 0}
            onChange={(after) => setDraft({ ...draft, after })}
          />
          <span className="rule-save">
            {'missing' in complete && <span className="quiet">{complete.missing} is missing</span>}
            <Button variant="plain" onClick={() => navigate(path)}>
              Cancel
            </Button>
            <Button
              type="submit"
              variant="main"
              disabled={'missing' in complete || creating.isLoading || changing.isLoading}
            >
              Save rule
            </Button>
          </span>
        </div>
      </form>
      <TryOut draft={draft} ruleId={rule?.id ?? null} numberOf={numberOf} />
    </section>
  );
}

const sentence = (words: string) => `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
