import type { RuleSuggestion } from '@zubrell/contract/rules';
import { ruleWords } from '@zubrell/core/propose/rule/ruleWords';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { rulesApi } from '../../api/rules.ts';
import { formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { useRuleNames } from './useRuleNames.ts';
import { useRulesStep } from './useRulesStep.ts';

/** Rules for what recurs, to be taken over as they are; shown while no rule is open. */
export function Suggestions({ hasRules }: { readonly hasRules: boolean }) {
  const { booksId } = useBooks();
  const names = useRuleNames();
  const { told } = useUndo();
  const { data } = rulesApi.useRuleSuggestionsQuery(booksId);
  const [createRule, { isLoading }] = rulesApi.useCreateRuleMutation();
  const seenStep = useRulesStep();
  const suggestions = data?.suggestions ?? [];

  async function write({ name, body }: RuleSuggestion): Promise<void> {
    told(await createRule({ booksId, name, body, isOn: true, seenStep }));
  }

  if (data && suggestions.length === 0) {
    return (
      <EmptyState title={hasRules ? t`Choose a rule` : t`Nothing to suggest yet`}>
        <p>
          {hasRules
            ? t`Its lines, and how you coded them, appear beside it.`
            : t`Once look-alikes were posted a few times, rules for them are suggested here.`}
        </p>
      </EmptyState>
    );
  }
  return (
    <section className="suggestions" aria-label={t`Suggested rules`}>
      <h2>{t`Suggested from your coding`}</h2>
      <p className="quiet">
        {t`Habits already cover these. A rule fixes the coding, so that only you can change it.`}
      </p>
      <ul>
        {suggestions.map((suggestion) => {
          const words = ruleWords(suggestion.body, names);
          return (
            <li key={words}>
              <span>
                <b>{suggestion.name}</b>
                <span className="words">{words}</span>
              </span>
              <span className="quiet num">{t`${formatCount(suggestion.times)} coded the same`}</span>
              <Button variant="plain" disabled={isLoading} onClick={() => void write(suggestion)}>
                {t`Write rule`}
              </Button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
