import { zodResolver } from '@hookform/resolvers/zod';
import { ResetPassword } from '@zubrell/contract/session';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { Link, useParams } from 'react-router';
import { sessionApi } from '../../api/session.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { tx } from '../../ui/tx.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { SignInSheet } from './SignInSheet.tsx';

/** Sets a new password by a link. */
export function ResetScreen() {
  const { secret = '' } = useParams();
  const [reset, { error: refused, isLoading, isSuccess }] = sessionApi.useResetPasswordMutation();
  // Once it is used the link is no more, and asking again would say so.
  const { data: whose, error } = sessionApi.useResetLinkQuery(secret, { skip: isSuccess });
  const { register, handleSubmit, formState } = useForm<ResetPassword>({
    resolver: zodResolver(ResetPassword),
    defaultValues: { password: '' },
  });
  return (
    <SignInSheet>
      {error && !isSuccess && <ErrorNote error={error} />}
      {!whose && !error && !isSuccess && <Waiting what={t`the link`} />}
      {whose && !isSuccess && (
        <>
          <p>{tx`A new password for ${<b>{whose.name}</b>}, ${whose.email}`}</p>
          <form
            onSubmit={handleSubmit(({ password }) => void reset({ secret, password }))}
            noValidate
          >
            <TextField
              label={t`New password`}
              type="password"
              autoComplete="new-password"
              hint={t`Ten characters or more.`}
              error={formState.errors.password?.message}
              {...register('password')}
            />
            {refused && <ErrorNote error={refused} />}
            <Button type="submit" variant="plain" disabled={isLoading}>
              {t`Set password`}
            </Button>
          </form>
        </>
      )}
      {isSuccess && (
        <>
          <p role="status">{t`The new password is set, and you are signed out everywhere.`}</p>
          <Link to="/sign-in" className="btn btn-main">
            {t`Sign in`}
          </Link>
        </>
      )}
    </SignInSheet>
  );
}
