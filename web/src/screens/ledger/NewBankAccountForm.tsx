import { zodResolver } from '@hookform/resolvers/zod';
import { NewBankAccount } from '@zubrell/contract/books';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { booksApi } from '../../api/books.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { SelectField } from '../../ui/SelectField.tsx';
import { TextField } from '../../ui/TextField.tsx';

const KINDS = [
  ['current', t`Current account`],
  ['savings', t`Savings account`],
  ['card', t`Card account`],
  ['cash', t`Cash`],
  ['clientMoney', t`Clients’ money`],
] as const;

const optional = { setValueAs: (text: string | null) => text?.trim() || null };

/** Makes a bank account with its ledger account. */
export function NewBankAccountForm({
  suggestion,
  onMade,
}: {
  /** What is known of it, as from a file. */
  readonly suggestion: {
    readonly number: string | null;
    readonly kind: 'current' | 'savings' | 'card' | null;
    readonly bank: string | null;
    readonly currency?: string | null;
  };
  readonly onMade: (id: string) => void;
}) {
  const { booksId, setup } = useBooks();
  const [createBankAccount, { error, isLoading }] = booksApi.useCreateBankAccountMutation();
  const { register, handleSubmit, formState } = useForm<NewBankAccount>({
    resolver: zodResolver(NewBankAccount),
    defaultValues: { ...suggestion, kind: suggestion.kind ?? 'current' },
  });
  const save = handleSubmit(async (values) => {
    const answer = await createBankAccount({ booksId, ...values });
    if (!answer.data) return;
    toast(answer.data.words);
    onMade(answer.data.id);
  });
  return (
    <form className="form-grid" onSubmit={save} noValidate>
      <TextField
        label={t`Name`}
        placeholder={t`Everyday`}
        error={formState.errors.name?.message}
        {...register('name')}
      />
      <SelectField label={t`Kind`} {...register('kind')}>
        {KINDS.map(([kind, name]) => (
          <option key={kind} value={kind}>
            {name}
          </option>
        ))}
      </SelectField>
      <TextField
        label={t`Account number`}
        hint={t`Files are recognised by it`}
        error={formState.errors.number?.message}
        {...register('number', optional)}
      />
      <TextField label={t`Bank`} {...register('bank', optional)} />
      <TextField
        label={t`Currency`}
        placeholder={setup.books.currency}
        hint={t`Three letters, if it isn’t the currency of the books`}
        maxLength={3}
        error={formState.errors.currency?.message}
        {...register('currency', {
          setValueAs: (text: string | null) => text?.trim().toUpperCase() || null,
        })}
      />
      {error && <ErrorNote error={error} />}
      <Button type="submit" variant="main" disabled={isLoading}>
        {t`Create bank account`}
      </Button>
    </form>
  );
}
