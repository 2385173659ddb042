import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { sessionApi } from '../../api/session.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { NewUserForm } from './NewUserForm.tsx';

/** Makes the first user of a new installation, for whoever started it. */
export function FirstUserForm() {
  const [makeFirstUser, { error, isLoading }] = sessionApi.useMakeFirstUserMutation();
  const [code, setCode] = useState('');
  return (
    <>
      <p className="m-0">{t`Nobody can sign in here yet. You are the first.`}</p>
      {error && <ErrorNote error={error} />}
      <div className="my-3">
        <TextField
          label={t`Set-up code`}
          hint={t`It was printed where the server was started.`}
          autoComplete="off"
          value={code}
          onChange={({ target }) => setCode(target.value)}
        />
      </div>
      <NewUserForm
        action={t`Begin`}
        isBusy={isLoading || code.trim() === ''}
        onSend={(user) => void makeFirstUser({ ...user, code })}
      />
    </>
  );
}
