import type { RuleId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { rulesApi } from '../../api/rules.ts';
import { shownProblem } from '../../app/problem.ts';
import { saveText } from '../../app/saveText.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';

/** Writes rules to a file: its text, or saved where the browser saves. */
export function useRuleFile(): {
  readonly text: (ruleIds: readonly RuleId[]) => Promise<string | null>;
  readonly save: (ruleIds: readonly RuleId[]) => Promise<void>;
} {
  const { booksId, setup } = useBooks();
  const [fetchFile] = rulesApi.useLazyRuleFileQuery();
  const text = async (ruleIds: readonly RuleId[]): Promise<string | null> => {
    const { data, error } = await fetchFile({ booksId, ruleId: [...ruleIds] });
    if (data) return JSON.stringify(data, null, 2);
    toast.error(shownProblem(error).message);
    return null;
  };
  return {
    text,
    save: async (ruleIds) => {
      const written = await text(ruleIds);
      if (written === null) return;
      saveText(written, t`rules of ${setup.books.name}.json`, 'application/json');
    },
  };
}
