import { zodResolver } from '@hookform/resolvers/zod';
import { Invite } from '@zubrell/contract/people';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { peopleApi } from '../../api/people.ts';
import { useBooks } from '../../app/useBooks.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { SecretLink } from '../../ui/SecretLink.tsx';
import { SelectField } from '../../ui/SelectField.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { roleWords } from './roleWords.ts';

/** Invites somebody: makes a link for them, which is shown this once. */
export function InviteForm() {
  const { booksId } = useBooks();
  const [invite, { error, isLoading }] = peopleApi.useInviteMutation();
  const [made, setMade] = useState<{ readonly name: string; readonly link: string } | null>(null);
  const { register, handleSubmit, reset, formState } = useForm<Invite>({
    resolver: zodResolver(Invite),
    defaultValues: { name: '', role: 'client' },
  });
  const send = handleSubmit(async (wanted) => {
    const { data } = await invite({ booksId, ...wanted });
    if (!data) return;
    setMade({ name: wanted.name, link: `${window.location.origin}/join/${data.secret}` });
    reset();
  });
  return (
    <>
      <form className="invite" onSubmit={send} noValidate>
        <TextField
          label={t`Invite`}
          placeholder={t`name`}
          error={formState.errors.name?.message}
          {...register('name')}
        />
        <SelectField label={t`Role`} {...register('role')}>
          {Object.entries(roleWords).map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </SelectField>
        <Button type="submit" variant="plain" disabled={isLoading}>
          {t`Create invitation`}
        </Button>
      </form>
      {error && <ErrorNote error={error} />}
      {made && (
        <SecretLink label={t`Link for ${made.name}`} link={made.link}>
          {t`Send this link to ${made.name}. Whoever has it can join, once, within 14 days; it is not shown again.`}
        </SecretLink>
      )}
    </>
  );
}
