import type { BankAccount } from '@zubrell/contract/books';
import type { BankStatement } from '@zubrell/core/formats/bankFile';
import { useState } from 'react';
import { bankAccountLabel, useBooks } from '../../app/useBooks.ts';
import { NewBankAccountForm } from '../ledger/NewBankAccountForm.tsx';

/** Which bank account a file belongs to: recognised, chosen, or made here. */
export function GoesTo({
  statement,
  value,
  isRecognised,
  onChange,
}: {
  readonly statement: BankStatement;
  readonly value: BankAccount | null;
  readonly isRecognised: boolean;
  readonly onChange: (id: string | null) => void;
}) {
  const { setup } = useBooks();
  const [isMaking, setIsMaking] = useState(setup.bankAccounts.length === 0);
  return (
    <section>
      <h2 className="small-heading">
        <label htmlFor="goes-to">Goes to</label>
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
          Choose …
        </option>
        {setup.bankAccounts.map((bank) => (
          <option key={bank.id} value={bank.id}>
            {bankAccountLabel(bank)}
          </option>
        ))}
        <option value="new">A new bank account …</option>
      </select>
      {isRecognised && <p className="quiet mb-0 mt-1">Recognised by the number in the file.</p>}
      {isMaking && value === null && (
        <NewBankAccountForm
          suggestion={{ number: statement.account, kind: statement.kind, bank: statement.bank }}
          onMade={(id) => {
            setIsMaking(false);
            onChange(id);
          }}
        />
      )}
    </section>
  );
}
