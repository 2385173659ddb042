import type { ListedRule, MiscodedLines } from '@zubrell/contract/rules';
import type { RuleId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { useLocation, useNavigate } from 'react-router';
import { rulesApi } from '../../api/rules.ts';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { tx } from '../../ui/tx.tsx';
import { AfterFields } from './AfterFields.tsx';
import { CorrectRuleDialog } from './CorrectRuleDialog.tsx';
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
  const { state }: { state: { readonly back?: string } | null } = useLocation();
  const back = rule === null ? state?.back : undefined;
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
  const [fetchMiscoded] = rulesApi.useLazyMiscodedLinesQuery();
  const [tryRule] = rulesApi.useLazyTryRuleQuery();
  const [against, setAgainst] = useState(0);
  const [miscoded, setMiscoded] = useState<MiscodedLines | null>(null);
  const seenStep = useRulesStep();
  const complete = bodyToSave(draft);
  const path = `/books/${booksId}/rules`;
  const numberOf = (id: string) => rules.find((each) => each.id === id)?.number ?? null;

  /** Saves the rule; one that goes against what was coded by hand is asked about first. */
  async function begin(): Promise<void> {
    if ('missing' in complete) return;
    const tried = await tryRule({ booksId, ruleId: opened?.id ?? null, body: complete.body }, true);
    const times = draft.isOn ? (tried.data?.against ?? 0) : 0;
    if (times > 0) setAgainst(times);
    else await save();
  }

  async function save(): Promise<void> {
    setAgainst(0);
    if ('missing' in complete) return;
    const { name, isOn } = draft;
    const wanted = { booksId, name: name.trim(), isOn, body: complete.body };
    const answer = opened
      ? await changeRule({ ...wanted, ruleId: opened.id, seenStep: opened.lastStep })
      : await createRule({ ...wanted, seenStep });
    if (!told(answer) || !answer.data) return;
    if (opened) {
      const wrong = await fetchMiscoded({ booksId, ruleId: opened.id });
      if (wrong.data && wrong.data.count > 0) {
        setMiscoded(wrong.data);
        return;
      }
    }
    leave(answer.data.id);
  }

  /** Back to the line that the rule was made from, if it was; else to the rule, or where none was saved to all. */
  function leave(ruleId: RuleId | null): void {
    navigate(back ?? (ruleId === null ? path : `${path}/${ruleId}`));
  }

  return (
    <section className="rule-editor" aria-label={rule ? t`Rule ${rule.name}` : t`New rule`}>
      <form
        className="rule-form"
        onSubmit={(event) => {
          event.preventDefault();
          void begin();
        }}
      >
        <div className="sentence">
          <input
            className="form-control rule-name"
            aria-label={t`Name of the rule`}
            placeholder={t`Name`}
            maxLength={100}
            value={draft.name}
            // biome-ignore lint/a11y/noAutofocus: a new rule begins with its name
            autoFocus={rule === null && draft.name === ''}
            onChange={({ target }) => setDraft({ ...draft, name: target.value })}
          />
          <select
            className="form-select on-off"
            aria-label={t`The rule is`}
            value={draft.isOn ? 'on' : 'off'}
            onChange={({ target }) => setDraft({ ...draft, isOn: target.value === 'on' })}
          >
            <option value="on">{t`On`}</option>
            <option value="off">{t`Off`}</option>
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
            {tx`This rule was changed elsewhere while you were editing it. ${(
              <Button
                variant="link"
                onClick={() => setEditing({ opened: rule, draft: draftOfRule(rule) })}
              >
                {t`Show the rule as it is now`}
              </Button>
            )}`}
          </p>
        )}
        <TakesFields takes={draft.takes} onChange={(takes) => setDraft({ ...draft, takes })} />
        <ResultFields result={draft.result} onChange={(result) => setDraft({ ...draft, result })} />
        <div className="sentence">
          <span className="lab">{t`And`}</span>
          <AfterFields
            after={draft.after}
            canPost={draft.result.kind === 'code' || draft.result.kind === 'transfer'}
            keptInRow={rule?.keptInRow ?? 0}
            onChange={(after) => setDraft({ ...draft, after })}
          />
          <span className="rule-save">
            {'missing' in complete && (
              <span className="quiet">{t`${complete.missing} is missing`}</span>
            )}
            <Button variant="plain" onClick={() => leave(null)}>
              {t`Cancel`}
            </Button>
            <Button
              type="submit"
              variant="main"
              disabled={'missing' in complete || creating.isLoading || changing.isLoading}
            >
              {t`Save rule`}
            </Button>
          </span>
        </div>
      </form>
      <TryOut draft={draft} ruleId={rule?.id ?? null} numberOf={numberOf} />
      {against > 0 && (
        <Dialog title={t`Save a rule that contradicts past coding?`} onClose={() => setAgainst(0)}>
          <Modal.Body>
            <p className="mb-0">
              {t`${counted(against, 'line that this rule takes was', 'lines that this rule takes were')} coded differently by hand. If the rule is right, save it: its lines wait in Check until you have kept 3 of them.`}
            </p>
          </Modal.Body>
          <DialogFoot
            leave={t`Keep editing`}
            isOff={false}
            onLeave={() => setAgainst(0)}
            onConfirm={save}
          >
            {t`Save rule`}
          </DialogFoot>
        </Dialog>
      )}
      {opened && miscoded && (
        <CorrectRuleDialog
          rule={opened}
          found={miscoded}
          onClose={() => {
            setMiscoded(null);
            leave(opened.id);
          }}
        />
      )}
    </section>
  );
}

const sentence = (words: string) => `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
