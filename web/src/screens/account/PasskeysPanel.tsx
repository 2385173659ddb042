import type { Passkey } from '@zubrell/contract/session';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Button, Table } from 'react-bootstrap';
import { sessionApi } from '../../api/session.ts';
import { browserName } from '../../app/browserName.ts';
import { makePasskey, type PasskeyTrouble, passkeyTrouble } from '../../app/passkeys.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useShowDate } from '../../app/useToday.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { Waiting } from '../../ui/Waiting.tsx';

const TROUBLES: Readonly<Record<PasskeyTrouble, string>> = {
  browser: t`This browser doesn’t support passkeys.`,
  address: t`To create a passkey, open this page under the server’s name instead of its IP address.`,
};

/** The passkeys of who is signed in. */
export function PasskeysPanel() {
  const { data, error } = sessionApi.usePasskeysQuery();
  const trouble = passkeyTrouble();
  return (
    <section className="sheet">
      <h2>{t`Passkeys`}</h2>
      <p className="quiet">
        {t`With a passkey, your device signs you in with your fingerprint, face or screen code. A passkey replaces both the password and the second factor.`}
      </p>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what={t`your passkeys`} />}
      {data && data.passkeys.length > 0 && (
        <Table>
          <thead>
            <tr>
              <th>{t`Passkey`}</th>
              <th>{t`Made`}</th>
              <th>{t`Last used`}</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {data.passkeys.map((passkey) => (
              <PasskeyRow key={passkey.id} passkey={passkey} />
            ))}
          </tbody>
        </Table>
      )}
      {trouble === null ? <AddForm /> : <p className="m-0">{TROUBLES[trouble]}</p>}
    </section>
  );
}

function PasskeyRow({
  passkey: { id, name, createdAt, lastUsedAt },
}: {
  readonly passkey: Passkey;
}) {
  const [remove, { isLoading }] = sessionApi.useRemovePasskeyMutation();
  const showDate = useShowDate();
  return (
    <tr>
      <td>{name}</td>
      <td>{showDate(createdAt.slice(0, 10))}</td>
      <td>{lastUsedAt === null ? '—' : showDate(lastUsedAt.slice(0, 10))}</td>
      <td>
        <Button
          variant="link"
          className="p-0"
          disabled={isLoading}
          aria-label={t`Remove ${name}`}
          onClick={async () => {
            const { error } = await remove({ id });
            if (error) toast.error(shownProblem(error).message);
          }}
        >
          {t`Remove`}
        </Button>
      </td>
    </tr>
  );
}

function AddForm() {
  const [begin] = sessionApi.useBeginPasskeyMutation();
  const [add] = sessionApi.useAddPasskeyMutation();
  const [name, setName] = useState(() => browserName(navigator.userAgent));
  const [isBusy, setIsBusy] = useState(false);

  async function send(event: FormEvent): Promise<void> {
    event.preventDefault();
    setIsBusy(true);
    try {
      const { data, error } = await begin();
      if (!data) return void toast.error(shownProblem(error).message);
      const made = await makePasskey(data);
      const { error: refused } = await add({ name: name.trim(), made });
      if (refused) toast.error(shownProblem(refused).message);
      else toast(t`Passkey created`);
    } catch {
      toast.warning(t`No passkey was created: your device already has one, or you cancelled.`);
    } finally {
      setIsBusy(false);
    }
  }

  return (
    <form className="code" onSubmit={(event) => void send(event)} noValidate>
      <TextField
        label={t`Name of this device`}
        value={name}
        onChange={({ target }) => setName(target.value)}
      />
      <Button type="submit" variant="plain" disabled={isBusy || name.trim() === ''}>
        {t`Create passkey`}
      </Button>
    </form>
  );
}
