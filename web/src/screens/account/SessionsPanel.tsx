import type { OpenSession } from '@zubrell/contract/session';
import { t } from '@zubrell/core/words/t';
import { Button, Table } from 'react-bootstrap';
import { sessionApi } from '../../api/session.ts';
import { browserName } from '../../app/browserName.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useShowDate } from '../../app/useToday.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';

/** The browsers in which one is signed in, each of which can be signed out. */
export function SessionsPanel() {
  const { data, error } = sessionApi.useOpenSessionsQuery();
  const [end, { isLoading }] = sessionApi.useEndSessionsMutation();
  const others = data?.sessions.filter(({ isThis }) => !isThis) ?? [];

  async function signOut(id: string | null): Promise<void> {
    const { error: refused } = await end({ id });
    if (refused) toast.error(shownProblem(refused).message);
    else toast(id === null ? t`Signed out everywhere else` : t`Signed out there`);
  }

  return (
    <section className="sheet">
      <h2>{t`Where you are signed in`}</h2>
      <p className="quiet">
        {t`A browser is signed out after a week without use, and after 30 days in any case.`}
      </p>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what={t`where you are signed in`} />}
      {data && (
        <Table>
          <thead>
            <tr>
              <th>{t`Browser`}</th>
              <th>{t`Address`}</th>
              <th>{t`Last used`}</th>
              <th>{t`Since`}</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {data.sessions.map((session) => (
              <SessionRow
                key={session.id}
                session={session}
                isBusy={isLoading}
                onEnd={() => void signOut(session.id)}
              />
            ))}
          </tbody>
        </Table>
      )}
      {others.length > 1 && (
        <Button variant="plain" disabled={isLoading} onClick={() => void signOut(null)}>
          {t`Sign out everywhere else`}
        </Button>
      )}
    </section>
  );
}

function SessionRow({
  session,
  isBusy,
  onEnd,
}: {
  readonly session: OpenSession;
  readonly isBusy: boolean;
  readonly onEnd: () => void;
}) {
  const showDate = useShowDate();
  const name = browserName(session.browser);
  return (
    <tr>
      <td>{name}</td>
      <td className="quiet">{session.address || '—'}</td>
      <td>{session.isThis ? t`here, now` : showDate(session.lastSeenAt.slice(0, 10))}</td>
      <td>{showDate(session.createdAt.slice(0, 10))}</td>
      <td>
        {!session.isThis && (
          <Button
            variant="link"
            className="p-0"
            disabled={isBusy}
            aria-label={t`Sign out ${name}`}
            onClick={onEnd}
          >
            {t`Sign out`}
          </Button>
        )}
      </td>
    </tr>
  );
}
