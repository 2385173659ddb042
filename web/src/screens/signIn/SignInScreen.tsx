import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { Navigate, useLocation } from 'react-router';
import { sessionApi } from '../../api/session.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { FirstUserForm } from './FirstUserForm.tsx';
import { PasskeySignIn } from './PasskeySignIn.tsx';
import { SignInForm } from './SignInForm.tsx';
import { SignInSheet } from './SignInSheet.tsx';

/** Signing in; in the demo with one press; on a new machine, making the first user. */
export function SignInScreen() {
  const { data: session, error } = sessionApi.useSessionQuery();
  const [signInDemo, demo] = sessionApi.useSignInDemoMutation();
  const { state } = useLocation();
  if (session?.user) {
    const from: unknown = state?.from;
    return <Navigate to={typeof from === 'string' ? from : '/'} replace />;
  }
  return (
    <SignInSheet>
      <p className="quiet">{t`Bank lines, coded and proved to the cent.`}</p>
      {error && <ErrorNote error={error} />}
      {!session && !error && <Waiting what={t`the sign-in`} />}
      {session?.isDemo && (
        <div className="demo">
          <Button variant="main" disabled={demo.isLoading} onClick={() => void signInDemo()}>
            {t`Sign in as Mo Oakes`}
          </Button>
          <p className="quiet">
            {t`The demo: a pottery studio and a canoe hire, all names made up. Change what you like.`}
          </p>
        </div>
      )}
      {session?.needsFirstUser && <FirstUserForm />}
      {session && !session.needsFirstUser && (
        <>
          <SignInForm />
          <PasskeySignIn />
        </>
      )}
    </SignInSheet>
  );
}
