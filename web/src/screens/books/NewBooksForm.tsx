import { zodResolver } from '@hookform/resolvers/zod';
import { NewBooks } from '@zubrell/contract/books';
import { monthNames } from '@zubrell/core/dates/calendarDate';
import { type TaxSet, taxSets } from '@zubrell/core/ledger/starterBooks';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import type { z } from 'zod';
import { booksApi } from '../../api/books.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { SelectField } from '../../ui/SelectField.tsx';
import { TextField } from '../../ui/TextField.tsx';

const TAX_SETS: Readonly<Record<TaxSet, string>> = {
  standardAndReduced: t`Standard and reduced rate`,
  oneRate: t`One standard rate`,
  none: t`No tax`,
};

/** Makes new books with a starter chart of accounts and tax codes, and goes to their Board, which says what comes next. */
export function NewBooksForm() {
  const [createBooks, { error, isLoading }] = booksApi.useCreateBooksMutation();
  const navigate = useNavigate();
  const { register, handleSubmit, formState } = useForm<
    z.input<typeof NewBooks>,
    unknown,
    NewBooks
  >({
    resolver: zodResolver(NewBooks),
    defaultValues: { currency: 'EUR', taxSet: 'standardAndReduced', yearBegins: 1 },
  });
  const save = handleSubmit(async (values) => {
    const answer = await createBooks(values);
    if (answer.data) navigate(`/books/${answer.data.id}/board`);
  });
  return (
    <form className="form-new" onSubmit={save} noValidate>
      <TextField
        label={t`Name of the business`}
        error={formState.errors.name?.message}
        {...register('name')}
      />
      <TextField
        label={t`Currency`}
        error={formState.errors.currency?.message}
        {...register('currency', { setValueAs: (text: string) => text.trim().toUpperCase() })}
      />
      <SelectField
        label={t`Month the year begins`}
        {...register('yearBegins', { valueAsNumber: true })}
      >
        {monthNames.map((name, index) => (
          <option key={name} value={index + 1}>
            {name}
          </option>
        ))}
      </SelectField>
      <SelectField label={t`Starting tax codes`} {...register('taxSet')}>
        {taxSets.map((set) => (
          <option key={set} value={set}>
            {TAX_SETS[set]}
          </option>
        ))}
      </SelectField>
      <Button type="submit" variant="main" disabled={isLoading}>
        {t`Create books`}
      </Button>
      {error && <ErrorNote error={error} />}
      <p className="quiet">
        {t`The books start with a chart of accounts and these tax codes; you can change both later. The currency can’t be changed. Opening balances come next.`}
      </p>
    </form>
  );
}
