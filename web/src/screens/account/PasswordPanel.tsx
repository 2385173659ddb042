import { zodResolver } from '@hookform/resolvers/zod';
import { ChangePassword } from '@zubrell/contract/session';
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
    toast('Password changed. You are signed out everywhere else.');
  });
  return (
    <section className="sheet">
      <h2>Password</h2>
      <p className="quiet">Changing your password signs you out everywhere else.</p>
      {error && <ErrorNote error={error} />}
      <form className="password" onSubmit={send} noValidate>
        <TextField
          label="Current password"
          type="password"
          autoComplete="current-password"
          error={formState.errors.present?.message}
          {...register('present')}
        />
        <TextField
          label="New password"
          type="password"
          autoComplete="new-password"
          hint="Ten characters or more."
          error={formState.errors.fresh?.message}
          {...register('fresh')}
        />
        <Button type="submit" variant="plain" disabled={isLoading}>
          Change password
        </Button>
      </form>
    </section>
  );
}
