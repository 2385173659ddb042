import { t } from '@zubrell/core/words/t';
import { useChoices, useUses } from '../../app/codingChoices.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Combobox } from '../../ui/Combobox.tsx';
import type { DraftRulePart } from './ruleDraft.ts';

/** The account and the tax code of a part. */
export function AccountAndTax({
  part,
  onChange,
}: {
  readonly part: DraftRulePart;
  readonly onChange: (part: DraftRulePart) => void;
}) {
  const { isHidden, takesTax } = useBooks();
  const uses = useUses();
  const accounts = useChoices('accountId', uses);
  const taxes = useChoices('taxCodeId', uses);
  return (
    <>
      <Combobox
        label={t`Account`}
        placeholder={t`Account`}
        className="account"
        choices={accounts}
        value={part.accountId}
        onChange={(accountId) =>
          onChange({
            ...part,
            accountId,
            taxCodeId: takesTax(accountId) ? part.taxCodeId : null,
          })
        }
      />
      {!isHidden('taxCodeId') && (
        <Combobox
          label={t`Tax`}
          placeholder={t`any tax`}
          className="tax"
          choices={taxes}
          value={part.taxCodeId}
          onChange={(taxCodeId) => onChange({ ...part, taxCodeId })}
        />
      )}
    </>
  );
}
