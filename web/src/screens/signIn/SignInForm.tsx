import { zodResolver } from '@hookform/resolvers/zod';
import { SignIn } from '@zubrell/contract/session';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { sessionApi } from '../../api/session.ts';
import { shownProblem } from '../../app/problem.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';

/** Address and password, and the code of a second factor once the server asks for it. */
export function SignInForm() {
  const [signIn, { error, isLoading }] = sessionApi.useSignInMutation();
  const { register, handleSubmit, formState, watch } = useForm<SignIn>({
    resolver: zodResolver(SignIn),
  });
  const code = error && shownProblem(error).code;
  const isCodeWanted =
    code === 'SECOND_FACTOR_NEEDED' ||
    code === 'SECOND_FACTOR_WRONG' ||
    (watch('code') ?? '') !== '';
  return (
    <form onSubmit={handleSubmit((values) => void signIn(values))} noValidate>
      <TextField
        label={t`E-mail address`}
        type="email"
        autoComplete="username"
        error={formState.errors.email?.message}
        {...register('email')}
      />
      <TextField
        label={t`Password`}
        type="password"
        autoComplete="current-password"
        error={formState.errors.password?.message}
        {...register('password')}
      />
      {isCodeWanted && (
        <TextField
          label={t`Code`}
          autoComplete="one-time-code"
          hint={t`From your device, or a recovery code.`}
          autoFocus
          {...register('code')}
        />
      )}
      {error && <ErrorNote error={error} />}
      <Button type="submit" variant="plain" disabled={isLoading}>
        {t`Sign in`}
      </Button>
    </form>
  );
}
