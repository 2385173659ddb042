import type { BankAccount } from '@zubrell/contract/books';
import type { StepDone } from '@zubrell/contract/common';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Button } from 'react-bootstrap';
import { intakeApi } from '../../api/intake.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { AmountField } from '../../ui/AmountField.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';

/** Lines and balances written by hand, for cash and for accounts that no file or feed covers. */
export function ByHand({ bankAccount }: { readonly bankAccount: BankAccount }) {
  const [form, setForm] = useState<'line' | 'balance' | null>(null);
  const isCash = bankAccount.kind === 'cash';
  const close = () => setForm(null);
  if (form !== null) return <HandForm bankAccount={bankAccount} kind={form} onClose={close} />;
  return (
    <div className="by-hand">
      <Button variant="plain" onClick={() => setForm('line')}>
        {t`Add a line`}
      </Button>
      <Button variant="plain" onClick={() => setForm('balance')}>
        {isCash ? t`Record a cash count` : t`Record a balance`}
      </Button>
    </div>
  );
}

function HandForm({
  bankAccount,
  kind,
  onClose,
}: {
  readonly bankAccount: BankAccount;
  readonly kind: 'line' | 'balance';
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { tell } = useUndo();
  const [date, setDate] = useState(useToday());
  const [amount, setAmount] = useState<number | null>(null);
  const [description, setDescription] = useState('');
  const [addLine, line] = intakeApi.useAddLineMutation();
  const [addBalance, balance] = intakeApi.useAddBalanceMutation();
  const bankAccountId = bankAccount.id;
  const { isLoading, error } = kind === 'line' ? line : balance;

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    if (amount === null) return;
    const place = { booksId, bankAccountId, date, amount };
    const answer: { data?: StepDone | undefined } =
      kind === 'line'
        ? await addLine({ ...place, description, reference: null })
        : await addBalance(place);
    if (!answer.data) return;
    tell(answer.data.words, answer.data.step);
    onClose();
  }

  return (
    <form className="by-hand" onSubmit={(event) => void save(event)}>
      <DateField
        label={kind === 'line' ? t`Date` : t`At the end of`}
        autoFocus
        value={date}
        onChange={setDate}
      />
      <div>
        <span className="small-heading">
          {kind === 'line' ? t`Amount, negative for money out` : t`Balance`}
        </span>
        <AmountField label={t`Amount`} value={amount} onChange={setAmount} placeholder="0.00" />
      </div>
      {kind === 'line' && (
        <TextField
          label={t`Description`}
          value={description}
          onChange={({ target }) => setDescription(target.value)}
        />
      )}
      <Button
        type="submit"
        variant="main"
        disabled={isLoading || (kind === 'line' && description.trim() === '')}
      >
        {kind === 'line' ? t`Add line` : t`Record balance`}
      </Button>
      <Button variant="link" onClick={onClose}>
        {t`Cancel`}
      </Button>
      {error && <ErrorNote error={error} />}
    </form>
  );
}
