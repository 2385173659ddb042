import type { Member } from '@zubrell/contract/people';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { peopleApi } from '../../api/people.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Dialog } from '../../ui/Dialog.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { SecretLink } from '../../ui/SecretLink.tsx';

/** What the owner can do for or with somebody's account: a link for a new password, or erasing it. */
export function MemberDialog({
  member,
  onClose,
}: {
  readonly member: Member;
  readonly onClose: () => void;
}) {
  return (
    <Dialog title={t`Account of ${member.name}`} onClose={onClose}>
      <Modal.Body>
        <NewPassword member={member} />
        <hr />
        <Erase member={member} onClose={onClose} />
      </Modal.Body>
    </Dialog>
  );
}

function NewPassword({ member: { userId, name } }: { readonly member: Member }) {
  const { booksId } = useBooks();
  const [make, { data, error, isLoading }] = peopleApi.useMakeResetLinkMutation();
  const [endsSecondFactor, setEndsSecondFactor] = useState(false);
  return (
    <section>
      <h3 className="small-heading">{t`New password`}</h3>
      <p>{t`If ${name} has forgotten the password, a link lets them set a new one.`}</p>
      <Form.Check
        id="ends-second-factor"
        label={t`Also turn their second factor off, as its device is lost`}
        checked={endsSecondFactor}
        onChange={({ target }) => setEndsSecondFactor(target.checked)}
      />
      <Button
        variant="plain"
        className="mt-2"
        disabled={isLoading}
        onClick={() => void make({ booksId, userId, endsSecondFactor })}
      >
        {t`Create link for a new password`}
      </Button>
      {error && <ErrorNote error={error} />}
      {data && (
        <SecretLink
          label={t`Link for ${name}`}
          link={`${window.location.origin}/reset/${data.secret}`}
        >
          {t`Send this link to ${name}. Whoever has it can set the password, once, within a day; it is not shown again.`}
        </SecretLink>
      )}
    </section>
  );
}

function Erase({
  member: { userId, name },
  onClose,
}: {
  readonly member: Member;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const [erase, { error, isLoading }] = peopleApi.useEraseMemberMutation();
  const [typed, setTyped] = useState('');

  async function send(): Promise<void> {
    const { error: refused } = await erase({ booksId, userId });
    if (refused) return;
    toast(t`The account of ${name} is erased`);
    onClose();
  }

  return (
    <section>
      <h3 className="small-heading">{t`Erase account`}</h3>
      <p>
        {t`${name} can’t sign in any more, anywhere here, and the name is replaced by “Erased person”. What they did in the books stays. This can’t be undone.`}
      </p>
      <label className="d-block">
        {t`Type the name to confirm`}
        <input
          className="form-control mt-1"
          autoComplete="off"
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
        />
      </label>
      {error && <ErrorNote error={error} />}
      <Button
        variant="plain"
        className="mt-2"
        disabled={isLoading || typed.trim() !== name}
        onClick={() => void send()}
      >
        {t`Erase account`}
      </Button>
    </section>
  );
}
