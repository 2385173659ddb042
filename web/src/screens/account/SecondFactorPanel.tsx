import type { SecondFactorBegun } from '@zubrell/contract/session';
import { t } from '@zubrell/core/words/t';
import { QRCodeSVG } from 'qrcode.react';
import { type FormEvent, useState } from 'react';
import { Button } from 'react-bootstrap';
import { sessionApi } from '../../api/session.ts';
import { counted } from '../../app/formats.ts';
import { toast } from '../../app/toast.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { tx } from '../../ui/tx.tsx';
import { Waiting } from '../../ui/Waiting.tsx';

/** A second factor of who is signed in: a device that shows codes, and recovery codes where it is lost. */
export function SecondFactorPanel() {
  const { data, error } = sessionApi.useSecondFactorQuery();
  const [codes, setCodes] = useState<readonly string[] | null>(null);
  return (
    <section className="sheet">
      <h2>{t`Second factor`}</h2>
      <p className="quiet">
        {t`Besides your password, signing in asks for a code from an app on your phone. Someone who learns your password can’t sign in with it alone.`}
      </p>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what={t`the second factor`} />}
      {codes && <Codes codes={codes} onDone={() => setCodes(null)} />}
      {data &&
        !codes &&
        (data.isOn ? (
          <On codesLeft={data.codesLeft} onCodes={setCodes} />
        ) : (
          <Off onCodes={setCodes} />
        ))}
    </section>
  );
}

type TakeCodes = (codes: readonly string[]) => void;

/** Takes a code and sends it. */
function CodeForm({
  label,
  isBusy,
  error,
  action,
  onSend,
  onCancel,
}: {
  readonly label: string;
  readonly isBusy: boolean;
  readonly error: unknown;
  /** What the button says. */
  readonly action: string;
  readonly onSend: (code: string) => Promise<void>;
  readonly onCancel?: () => void;
}) {
  const [code, setCode] = useState('');
  const send = (event: FormEvent) => {
    event.preventDefault();
    void onSend(code.trim()).then(() => setCode(''));
  };
  return (
    <form className="code" onSubmit={send} noValidate>
      <TextField
        label={label}
        autoComplete="one-time-code"
        value={code}
        onChange={({ target }) => setCode(target.value)}
      />
      {error !== undefined && <ErrorNote error={error} />}
      <span>
        <Button type="submit" variant="plain" disabled={isBusy || code.trim() === ''}>
          {action}
        </Button>{' '}
        {onCancel && (
          <Button variant="link" onClick={onCancel}>
            {t`Cancel`}
          </Button>
        )}
      </span>
    </form>
  );
}

function Off({ onCodes }: { readonly onCodes: TakeCodes }) {
  const [begin, { error, isLoading }] = sessionApi.useBeginSecondFactorMutation();
  const [confirm, confirming] = sessionApi.useConfirmSecondFactorMutation();
  const [begun, setBegun] = useState<SecondFactorBegun | null>(null);
  if (begun === null) {
    return (
      <>
        {error && <ErrorNote error={error} />}
        <Button
          variant="plain"
          disabled={isLoading}
          onClick={async () => setBegun((await begin()).data ?? null)}
        >
          {t`Set up a second factor`}
        </Button>
      </>
    );
  }
  return (
    <div className="second-factor">
      <QRCodeSVG value={begun.uri} size={168} marginSize={2} title={t`Code for your app to scan`} />
      <div>
        <p>
          {tx`Scan this picture with the app on your phone, or type this code into the app: ${<span className="mono secret">{begun.secret}</span>}`}
        </p>
        <CodeForm
          label={t`Code from the app`}
          isBusy={confirming.isLoading}
          error={confirming.error}
          action={t`Turn on second factor`}
          onSend={async (code) => {
            const { data } = await confirm({ code });
            if (data) onCodes(data.codes);
          }}
        />
      </div>
    </div>
  );
}

function On({ codesLeft, onCodes }: { readonly codesLeft: number; readonly onCodes: TakeCodes }) {
  const [make, making] = sessionApi.useMakeRecoveryCodesMutation();
  const [end, ending] = sessionApi.useEndSecondFactorMutation();
  const [wants, setWants] = useState<'codes' | 'end' | null>(null);
  const left = counted(codesLeft, 'recovery code is', 'recovery codes are');
  return (
    <>
      <p>
        {codesLeft < 4
          ? t`The second factor is on. ${left} left: create new ones soon.`
          : t`The second factor is on. ${left} left.`}
      </p>
      {wants === null ? (
        <div className="d-flex gap-2">
          <Button variant="plain" onClick={() => setWants('codes')}>
            {t`Create new recovery codes`}
          </Button>
          <Button variant="plain" onClick={() => setWants('end')}>
            {t`Turn off second factor`}
          </Button>
        </div>
      ) : (
        <CodeForm
          label={t`Code from your device, or a recovery code`}
          isBusy={making.isLoading || ending.isLoading}
          error={wants === 'codes' ? making.error : ending.error}
          onSend={async (code) => {
            if (wants === 'codes') {
              const { data } = await make({ code });
              if (data) onCodes(data.codes);
            } else {
              const { error } = await end({ code });
              if (!error) toast(t`The second factor is off`);
            }
          }}
          action={wants === 'codes' ? t`Create new recovery codes` : t`Turn off second factor`}
          onCancel={() => setWants(null)}
        />
      )}
    </>
  );
}

/** Recovery codes, shown this once. */
function Codes({
  codes,
  onDone,
}: {
  readonly codes: readonly string[];
  readonly onDone: () => void;
}) {
  return (
    <div role="status">
      <p>
        {t`Each code replaces your device once. Keep the codes somewhere you can reach without the device; they aren’t shown again.`}
      </p>
      <ul className="recovery-codes mono">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <div className="d-flex gap-2">
        <Button
          variant="plain"
          onClick={() =>
            void navigator.clipboard
              .writeText(codes.join('\n'))
              .then(() => toast(t`Codes copied`))
              .catch(() => toast.warning(t`Copying didn’t work. Select the codes and copy them.`))
          }
        >
          {t`Copy`}
        </Button>
        <Button variant="plain" onClick={onDone}>
          {t`I have saved the codes`}
        </Button>
      </div>
    </div>
  );
}
