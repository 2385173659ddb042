import { api } from '../../app/api.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { NewUserForm } from './NewUserForm.tsx';

/** Makes the first user of a new installation. */
export function FirstUserForm() {
  const [makeFirstUser, { error, isLoading }] = api.useMakeFirstUserMutation();
  return (
    <>
      <p className="m-0">Nobody can sign in here yet. You are the first.</p>
      {error && <ErrorNote error={error} />}
      <NewUserForm action="Begin" isBusy={isLoading} onSend={(user) => void makeFirstUser(user)} />
    </>
  );
}
