import { zodResolver } from '@hookform/resolvers/zod';
import { FirstUser } from '@zubrell/contract/session';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { TextField } from '../../ui/TextField.tsx';

/** Name, address and password of a new user. */
export function NewUserForm({
  name = '',
  action,
  isBusy,
  onSend,
}: {
  readonly name?: string;
  /** What the button says. */
  readonly action: string;
  readonly isBusy: boolean;
  readonly onSend: (user: FirstUser) => void;
}) {
  const { register, handleSubmit, formState } = useForm<FirstUser>({
    resolver: zodResolver(FirstUser),
    defaultValues: { name },
  });
  return (
    <form onSubmit={handleSubmit((values) => onSend(values))} noValidate>
      <TextField
        label={t`Your name`}
        autoComplete="name"
        error={formState.errors.name?.message}
        {...register('name')}
      />
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
        autoComplete="new-password"
        error={formState.errors.password?.message}
        {...register('password')}
      />
      <Button type="submit" variant="main" disabled={isBusy}>
        {action}
      </Button>
    </form>
  );
}
