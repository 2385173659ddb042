import { zodResolver } from '@hookform/resolvers/zod';
import { SignIn } from '@zubrell/contract/session';
import { useForm } from 'react-hook-form';
import { api } from '../../app/api.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';

/** Address and password. */
export function SignInForm() {
  const [signIn, { error, isLoading }] = api.useSignInMutation();
  const { register, handleSubmit, formState } = useForm<SignIn>({
    resolver: zodResolver(SignIn),
  });
  return (
    <form onSubmit={handleSubmit((values) => signIn(values))} noValidate>
      <TextField
        label="E-mail address"
        type="email"
        autoComplete="username"
        error={formState.errors.email?.message}
        {...register('email')}
      />
      <TextField
        label="Password"
        type="password"
        autoComplete="current-password"
        error={formState.errors.password?.message}
        {...register('password')}
      />
      {error && <ErrorNote error={error} />}
      <button type="submit" className="btn btn-plain" disabled={isLoading}>
        Sign in
      </button>
    </form>
  );
}
