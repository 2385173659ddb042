import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { Link, Navigate, useNavigate, useParams } from 'react-router';
import { peopleApi } from '../../api/people.ts';
import { sessionApi } from '../../api/session.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { tx } from '../../ui/tx.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { NewUserForm } from './NewUserForm.tsx';
import { SignInSheet } from './SignInSheet.tsx';

/** Takes an invitation up: as who is signed in, or as a new user. */
export function JoinScreen() {
  const { secret = '' } = useParams();
  const { data: session } = sessionApi.useSessionQuery();
  const { data: invitation, error } = peopleApi.useInvitationQuery(secret);
  const [join, joining] = peopleApi.useJoinMutation();
  const navigate = useNavigate();
  if (joining.isSuccess && invitation) {
    const place = invitation.role === 'client' ? 'questions' : 'board';
    return <Navigate to={`/books/${invitation.booksId}/${place}`} replace />;
  }
  return (
    <SignInSheet>
      {error && <ErrorNote error={error} />}
      {!(invitation && session) && !error && <Waiting what={t`the invitation`} />}
      {invitation && session && (
        <>
          <p>
            {invitation.role === 'client'
              ? tx`${invitation.invitedBy} invites ${invitation.name} to answer questions about the books of ${<b>{invitation.booksName}</b>}.`
              : tx`${invitation.invitedBy} invites ${invitation.name} to the books of ${<b>{invitation.booksName}</b>}.`}
          </p>
          {joining.error && <ErrorNote error={joining.error} />}
          {session.user ? (
            <div className="demo">
              <Button
                variant="main"
                disabled={joining.isLoading}
                onClick={() => void join({ secret, newUser: null })}
              >
                {t`Join as ${session.user.name}`}
              </Button>
            </div>
          ) : (
            <>
              <NewUserForm
                name={invitation.name}
                action={t`Join`}
                isBusy={joining.isLoading}
                onSend={(newUser) => void join({ secret, newUser })}
              />
              <p className="in-text mt-3 mb-0">
                {tx`Do you have an account here? ${(
                  <Link to="/sign-in" state={{ from: `/join/${secret}` }}>
                    {t`Sign in`}
                  </Link>
                )} first.`}
              </p>
            </>
          )}
        </>
      )}
      {error && (
        <Button variant="plain" className="mt-3" onClick={() => void navigate('/')}>
          {t`Go to your books`}
        </Button>
      )}
    </SignInSheet>
  );
}
