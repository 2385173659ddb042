import { zodResolver } from '@hookform/resolvers/zod';
import { NewBooks } from '@zubrell/contract/books';
import { type TaxSet, taxSets } from '@zubrell/core/ledger/starterBooks';
import { Button } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import type { z } from 'zod';
import { booksApi } from '../../api/books.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { SelectField } from '../../ui/SelectField.tsx';
import { TextField } from '../../ui/TextField.tsx';

const TAX_SETS: Readonly<Record<TaxSet, string>> = {
  standardAndReduced: 'Standard and reduced rate',
  oneRate: 'One standard rate',
  none: 'No tax',
};

/** Makes new books with a starter chart of accounts and tax codes, and goes to their Intake. */
export function NewBooksForm() {
  const [createBooks, { error, isLoading }] = booksApi.useCreateBooksMutation();
  const navigate = useNavigate();
  const { register, handleSubmit, formState } = useForm<
    z.input<typeof NewBooks>,
    unknown,
    NewBooks
  >({
    resolver: zodResolver(NewBooks),
    defaultValues: { currency: 'EUR', taxSet: 'standardAndReduced' },
  });
  const save = handleSubmit(async (values) => {
    const answer = await createBooks(values);
    if (answer.data) navigate(`/books/${answer.data.id}/intake`);
  });
  return (
    <form className="form-new" onSubmit={save} noValidate>
      <TextField
        label="Name of the business"
        error={formState.errors.name?.message}
        {...register('name')}
      />
      <TextField
        label="Currency"
        error={formState.errors.currency?.message}
        {...register('currency', { setValueAs: (text: string) => text.trim().toUpperCase() })}
      />
      <SelectField label="Tax" {...register('taxSet')}>
        {taxSets.map((set) => (
          <option key={set} value={set}>
            {TAX_SETS[set]}
          </option>
        ))}
      </SelectField>
      <Button type="submit" variant="main" disabled={isLoading}>
        Make books
      </Button>
      {error && <ErrorNote error={error} />}
      <p className="quiet">
        They start with a chart of accounts and tax codes, and you can change both. The currency
        stays.
      </p>
    </form>
  );
}
