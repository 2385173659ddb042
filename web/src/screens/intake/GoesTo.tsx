import type { BankAccount } from '@zubrell/contract/books';
import type { StatementFacts } from '@zubrell/core/formats/bankFile';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { bankAccountLabel, useBooks } from '../../app/useBooks.ts';
import { NewBankAccountForm } from '../ledger/NewBankAccountForm.tsx';

/** Which bank account a file belongs to: recognised, chosen, or made here. */
export function GoesTo({
  statement,
  value,
  how,
  onChange,
}: {
  readonly statement: StatementFacts;
  readonly value: BankAccount | null;
  /** How it was found; null where somebody chose. */
  readonly how: string | null;
  readonly onChange: (id: string | null) => void;
}) {
  const { setup } = useBooks();
  const [isMaking, setIsMaking] = useState(setup.bankAccounts.length === 0);
  return (
    <section>
      <h2 className="small-heading">
        <label htmlFor="goes-to">{t`Bank account`}</label>
      </h2>
      <select
        id="goes-to"
        className="form-select"
        value={value?.id ?? (isMaking ? 'new' : '')}
        onChange={({ target }) => {
          setIsMaking(target.value === 'new');
          onChange(target.value === 'new' || target.value === '' ? null : target.value);
        }}
      >
        <option value="" disabled>
          {t`Choose …`}
        </option>
        {setup.bankAccounts.map((bank) => (
          <option key={bank.id} value={bank.id}>
            {bankAccountLabel(bank)}
          </option>
        ))}
        <option value="new">{t`A new bank account …`}</option>
      </select>
      {how && <p className="quiet mb-0 mt-1">{how}</p>}
      {isMaking && value === null && (
        <NewBankAccountForm
          suggestion={{
            number: statement.account,
            kind: statement.kind,
            bank: statement.bank,
            currency: statement.currency === setup.books.currency ? null : statement.currency,
          }}
          onMade={(id) => {
            setIsMaking(false);
            onChange(id);
          }}
        />
      )}
    </section>
  );
}
