import type { AccountId, TaxCodeId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useChoices, useUses } from '../../app/codingChoices.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Combobox } from '../../ui/Combobox.tsx';

/** An account and a tax code, side by side. */
export function AccountAndTaxFields({
  accountId,
  taxCodeId,
  label,
  isTaxed = true,
  areBanksIn = true,
  onChange,
}: {
  readonly accountId: AccountId | null;
  readonly taxCodeId: TaxCodeId | null;
  /** Tells these fields from others. @example 'of line 2' */
  readonly label: string;
  readonly isTaxed?: boolean;
  /** Whether it may be a bank account. */
  readonly areBanksIn?: boolean;
  readonly onChange: (accountId: AccountId | null, taxCodeId: TaxCodeId | null) => void;
}) {
  const { takesTax } = useBooks();
  const uses = useUses();
  const accounts = useChoices('accountId', uses, areBanksIn);
  const taxCodes = useChoices('taxCodeId', uses);
  return (
    <>
      <Combobox
        label={t`Account ${label}`}
        placeholder={t`Account`}
        choices={accounts}
        value={accountId}
        onChange={(id) => {
          const usual = uses.accounts.find((use) => use.accountId === id)?.lastTaxCodeId ?? null;
          onChange(id, takesTax(id) ? (taxCodeId ?? usual) : null);
        }}
      />
      {isTaxed && (
        <Combobox
          label={t`Tax ${label}`}
          placeholder={t`Tax`}
          choices={taxCodes}
          value={taxCodeId}
          onChange={(id) => onChange(accountId, id)}
        />
      )}
    </>
  );
}
