import type { Role } from '@zubrell/contract/books';
import type { Member } from '@zubrell/contract/people';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { peopleApi } from '../../api/people.ts';
import { sessionApi } from '../../api/session.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { tx } from '../../ui/tx.tsx';
import { InviteForm } from './InviteForm.tsx';
import { MemberDialog } from './MemberDialog.tsx';
import { roleNames, roleWords } from './roleWords.ts';

/** Who works with these books, and who is invited to. */
export function PeoplePanel() {
  const { booksId, setup } = useBooks();
  const { data } = peopleApi.usePeopleQuery(booksId);
  const [withdraw] = peopleApi.useWithdrawInvitationMutation();
  const showDate = useShowDate();
  const isOwner = setup.books.role === 'owner';
  return (
    <section className="sheet">
      <h2>{t`People`}</h2>
      <Table className="people">
        <thead>
          <tr>
            <th>{t`Name`}</th>
            <th>{t`E-mail address`}</th>
            <th>{t`Role`}</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {data?.members.map((member) => (
            <MemberRow key={member.userId} member={member} isOwner={isOwner} />
          ))}
          {data?.invitations.map(({ id, name, role, expiresAt }) => (
            <tr key={id}>
              <td>{name}</td>
              <td className="quiet">{t`invited, until ${showDate(expiresAt.slice(0, 10))}`}</td>
              <td>{roleWords[role]}</td>
              <td>
                {isOwner && (
                  <Button
                    variant="link"
                    className="p-0"
                    onClick={() => void withdraw({ booksId, invitationId: id })}
                  >
                    {t`Withdraw invitation`}
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {isOwner && <InviteForm />}
      {isOwner && (
        <p className="quiet mt-3 mb-0">
          {tx`Who signed in, was refused or changed something here is in the ${<Link to={`/books/${booksId}/record`}>{t`access record`}</Link>}.`}
        </p>
      )}
    </section>
  );
}

function MemberRow({ member, isOwner }: { readonly member: Member; readonly isOwner: boolean }) {
  const { booksId } = useBooks();
  const [setRole] = peopleApi.useSetRoleMutation();
  const [isEnding, setIsEnding] = useState(false);
  const [isOpen, setIsOpen] = useState(false);
  const { data: session } = sessionApi.useSessionQuery();
  const { userId, name, email, role } = member;
  const isSelf = session?.user?.id === userId;

  async function change(wanted: Role | null): Promise<void> {
    const { error } = await setRole({ booksId, userId, role: wanted });
    if (error) toast.error(shownProblem(error).message);
    else
      toast(
        wanted === null
          ? t`${name} no longer has access to these books`
          : t`${name} is now ${roleNames[wanted]}`,
      );
    setIsEnding(false);
  }

  return (
    <tr>
      <td>{name}</td>
      <td>{email}</td>
      <td>
        {isOwner ? (
          <select
            className="form-select form-select-sm"
            aria-label={t`Role of ${name}`}
            value={role}
            onChange={({ target }) => void change(target.value as Role)}
          >
            {Object.entries(roleWords).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        ) : (
          roleWords[role]
        )}
      </td>
      <td>
        {isOwner &&
          (isEnding ? (
            <span className="d-flex gap-2">
              <Button variant="plain" onClick={() => void change(null)}>
                {t`Remove access`}
              </Button>
              <Button variant="link" onClick={() => setIsEnding(false)}>
                {t`Cancel`}
              </Button>
            </span>
          ) : (
            <span className="d-flex gap-3">
              {!isSelf && (
                <Button
                  variant="link"
                  className="p-0"
                  aria-label={t`Account of ${name}`}
                  onClick={() => setIsOpen(true)}
                >
                  {t`Account…`}
                </Button>
              )}
              <Button variant="link" className="p-0" onClick={() => setIsEnding(true)}>
                {t`Remove access`}
              </Button>
            </span>
          ))}
        {isOpen && <MemberDialog member={member} onClose={() => setIsOpen(false)} />}
      </td>
    </tr>
  );
}
