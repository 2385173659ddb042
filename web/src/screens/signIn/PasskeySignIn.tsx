import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { sessionApi } from '../../api/session.ts';
import { passkeyTrouble, signWithPasskey } from '../../app/passkeys.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';

/** Signs in by the device alone, where that can be done. */
export function PasskeySignIn() {
  const [begin, beginning] = sessionApi.useBeginPasskeySignInMutation();
  const [signIn, { error, isLoading }] = sessionApi.useSignInByPasskeyMutation();
  const [isCalledOff, setIsCalledOff] = useState(false);
  if (passkeyTrouble() !== null) return null;

  async function send(): Promise<void> {
    setIsCalledOff(false);
    const { data } = await begin();
    if (!data) return;
    try {
      await signIn(await signWithPasskey(data));
    } catch {
      setIsCalledOff(true);
    }
  }

  return (
    <div className="passkey">
      <Button
        variant="plain"
        disabled={isLoading || beginning.isLoading}
        onClick={() => void send()}
      >
        {t`Sign in with a passkey`}
      </Button>
      {beginning.error && <ErrorNote error={beginning.error} />}
      {error && <ErrorNote error={error} />}
      {isCalledOff && (
        <p className="quiet" role="status">
          {t`Signing in was cancelled, or your device has no passkey for this server.`}
        </p>
      )}
    </div>
  );
}
