import { zodResolver } from '@hookform/resolvers/zod';
import { FirstUser } from '@zubrell/contract/session';
import { useForm } from 'react-hook-form';
import { api } from '../../app/api.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';

/** Makes the first user of a new installation. */
export function FirstUserForm() {
  const [makeFirstUser, { error, isLoading }] = api.useMakeFirstUserMutation();
  const { register, handleSubmit, formState } = useForm<FirstUser>({
    resolver: zodResolver(FirstUser),
  });
  return (
    <form onSubmit={handleSubmit((values) => makeFirstUser(values))} noValidate>
      <p className="m-0">Nobody can sign in here yet. You are the first.</p>
      <TextField
        label="Your name"
        autoComplete="name"
        error={formState.errors.name?.message}
        {...register('name')}
      />
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
        autoComplete="new-password"
        error={formState.errors.password?.message}
        {...register('password')}
      />
      {error && <ErrorNote error={error} />}
      <button type="submit" className="btn btn-main" disabled={isLoading}>
        Begin
      </button>
    </form>
  );
}
