import { zodResolver } from '@hookform/resolvers/zod';
import { EraseAccount } from '@zubrell/contract/session';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { sessionApi } from '../../api/session.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';

/** Erases the account of who is signed in. */
export function ErasePanel() {
  const [erase, { error, isLoading }] = sessionApi.useEraseAccountMutation();
  const [isAsked, setIsAsked] = useState(false);
  const { register, handleSubmit, formState } = useForm<EraseAccount>({
    resolver: zodResolver(EraseAccount),
    defaultValues: { password: '' },
  });
  return (
    <section className="sheet">
      <h2>{t`Erase your account`}</h2>
      <p className="quiet">
        {t`You can’t sign in any more, and your name is replaced by “Erased person” wherever it stands. What you did in books stays there. Books that only you own need another owner first.`}
      </p>
      {isAsked ? (
        <form
          className="password"
          onSubmit={handleSubmit((wanted) => void erase(wanted))}
          noValidate
        >
          <TextField
            label={t`Your password`}
            type="password"
            autoComplete="current-password"
            error={formState.errors.password?.message}
            {...register('password')}
          />
          {error && <ErrorNote error={error} />}
          <span>
            <Button type="submit" variant="plain" disabled={isLoading}>
              {t`Erase my account`}
            </Button>{' '}
            <Button variant="link" onClick={() => setIsAsked(false)}>
              {t`Cancel`}
            </Button>
          </span>
        </form>
      ) : (
        <Button variant="plain" onClick={() => setIsAsked(true)}>
          {t`Erase my account…`}
        </Button>
      )}
    </section>
  );
}
