import { zodResolver } from '@hookform/resolvers/zod';
import { NewAccount } from '@zubrell/contract/books';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { booksApi } from '../../api/books.ts';
import { toast } from '../../app/toast.ts';
import { accountLabel, standing, useBooks } from '../../app/useBooks.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { nearTwins } from '../../ui/nearTwins.ts';
import { SelectField } from '../../ui/SelectField.tsx';
import { TextField } from '../../ui/TextField.tsx';

const TYPES = ['expense', 'income', 'asset', 'liability', 'equity'] as const;

/** Adds an account to the chart. */
export function NewAccountForm({
  suggestion,
  onMade,
}: {
  /** What is known of it, as from what was typed. */
  readonly suggestion?: Pick<NewAccount, 'code' | 'name' | 'type'>;
  readonly onMade: (id: string) => void;
}) {
  const { booksId, setup } = useBooks();
  const [createAccount, { error, isLoading }] = booksApi.useCreateAccountMutation();
  const { register, handleSubmit, watch, formState } = useForm<NewAccount>({
    resolver: zodResolver(NewAccount),
    defaultValues: { type: 'expense', parentId: null, ...suggestion },
  });
  const type = watch('type');
  const twins = nearTwins(setup.accounts, watch('name') ?? '');
  const save = handleSubmit(async (values) => {
    const answer = await createAccount({ booksId, ...values });
    if (!answer.data) return;
    toast(answer.data.words);
    onMade(answer.data.id);
  });
  return (
    <form className="form-grid" onSubmit={save} noValidate>
      <TextField label={t`Code`} error={formState.errors.code?.message} {...register('code')} />
      <TextField label={t`Name`} error={formState.errors.name?.message} {...register('name')} />
      <SelectField label={t`Type`} {...register('type')}>
        {TYPES.map((each) => (
          <option key={each} value={each}>
            {each}
          </option>
        ))}
      </SelectField>
      <SelectField
        label={t`Below`}
        {...register('parentId', { setValueAs: (value: string) => value || null })}
      >
        <option value="">{t`nothing: top level`}</option>
        {standing(setup.accounts)
          .filter((account) => account.type === type)
          .map((account) => (
            <option key={account.id} value={account.id}>
              {accountLabel(account)}
            </option>
          ))}
      </SelectField>
      <TextField
        label={t`Search words`}
        placeholder={t`what goes there, e.g. stationery postage`}
        {...register('purpose')}
      />
      {twins.length > 0 && (
        <p className="doubt m-0">{t`Very similar to ${twins.map(accountLabel).join(', ')}.`}</p>
      )}
      {error && <ErrorNote error={error} />}
      <Button type="submit" variant="main" disabled={isLoading}>
        {t`Create account`}
      </Button>
    </form>
  );
}
