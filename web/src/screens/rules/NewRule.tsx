import { skipToken } from '@reduxjs/toolkit/query';
import type { DraftRule, ListedRule } from '@zubrell/contract/rules';
import { t } from '@zubrell/core/words/t';
import { rulesApi } from '../../api/rules.ts';
import { useBooks } from '../../app/useBooks.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { RuleEditor } from './RuleEditor.tsx';
import { draftOfRule, emptyDraft, type RuleDraft, twinOf } from './ruleDraft.ts';

/** What a rule is made from, as the address says; null where it begins empty. */
export function fromAddress(params: URLSearchParams): DraftRule | null {
  const [line, stem, habit, account] = ['line', 'stem', 'habit', 'account'].map((name) =>
    params.get(name),
  );
  if (line) return { lineIds: [line] };
  if (stem) return { stem, direction: params.get('direction') === 'in' ? 'in' : 'out' };
  return habit && account ? { habit, accountId: account } : null;
}

/** A new rule: empty, or filled in from a line, a stack, a habit or a twin. */
export function NewRule({
  params,
  rules,
}: {
  readonly params: URLSearchParams;
  readonly rules: readonly ListedRule[];
}) {
  const { booksId } = useBooks();
  const from = fromAddress(params);
  const { data, error } = rulesApi.useDraftRuleQuery(from ? { booksId, ...from } : skipToken);
  const other = rules.find(({ id }) => id === params.get('twin'));
  const start: RuleDraft | null = other
    ? twinOf(draftOfRule(other))
    : from === null
      ? emptyDraft
      : data
        ? draftOfRule(data)
        : null;
  if (start) return <RuleEditor rule={null} rules={rules} start={start} />;
  return (
    <section className="rule-editor">
      {error ? <ErrorNote error={error} /> : <Waiting what={t`the rule`} />}
    </section>
  );
}
