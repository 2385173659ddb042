import { zodResolver } from '@hookform/resolvers/zod';
import { ChangePassword } from '@zubrell/contract/session';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { sessionApi } from '../../api/session.ts';
import { toast } from '../../app/toast.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';

/** Changes the password of who is signed in. */
export function PasswordPanel() {
  const [change, { error, isLoading }] = sessionApi.useChangePasswordMutation();
  const { register, handleSubmit, reset, formState } = useForm<ChangePassword>({
    resolver: zodResolver(ChangePassword),
    defaultValues: { present: '', fresh: '' },
  });
  const send = handleSubmit(async (wanted) => {
    const { error: refused } = await change(wanted);
    if (refused) return;
    reset();
    toast(t`Password changed. You are signed out everywhere else.`);
  });
  return (
    <section className="sheet">
      <h2>{t`Password`}</h2>
      <p className="quiet">{t`Changing your password signs you out everywhere else.`}</p>
      {error && <ErrorNote error={error} />}
      <form className="password" onSubmit={send} noValidate>
        <TextField
          label={t`Current password`}
          type="password"
          autoComplete="current-password"
          error={formState.errors.present?.message}
          {...register('present')}
        />
        <TextField
          label={t`New password`}
          type="password"
          autoComplete="new-password"
          hint={t`Ten characters or more.`}
          error={formState.errors.fresh?.message}
          {...register('fresh')}
        />
        <Button type="submit" variant="plain" disabled={isLoading}>
          {t`Change password`}
        </Button>
      </form>
    </section>
  );
}
