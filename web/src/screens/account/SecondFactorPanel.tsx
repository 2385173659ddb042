import type { SecondFactorBegun } from '@zubrell/contract/session';
import { QRCodeSVG } from 'qrcode.react';
import { type FormEvent, useState } from 'react';
import { Button } from 'react-bootstrap';
import { sessionApi } from '../../api/session.ts';
import { toast } from '../../app/toast.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { Waiting } from '../../ui/Waiting.tsx';

/** A second factor of who is signed in: a device that shows codes, and recovery codes where it is lost. */
export function SecondFactorPanel() {
  const { data, error } = sessionApi.useSecondFactorQuery();
  const [codes, setCodes] = useState<readonly string[] | null>(null);
  return (
    <section className="sheet">
      <h2>Second factor</h2>
      <p className="quiet">
        Beside the password, a code is asked for that an app on your phone shows. Whoever learns
        your password can do nothing with it alone.
      </p>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what="the second factor" />}
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
            Cancel
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
          Set up a second factor
        </Button>
      </>
    );
  }
  return (
    <div className="second-factor">
      <QRCodeSVG value={begun.uri} size={168} marginSize={2} title="To be read by your app" />
      <div>
        <p>
          Let the app on your phone read this picture, or type this into it:{' '}
          <span className="mono secret">{begun.secret}</span>
        </p>
        <CodeForm
          label="Code that the app shows"
          isBusy={confirming.isLoading}
          error={confirming.error}
          action="Turn it on"
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
  const left = codesLeft === 1 ? 'One recovery code is' : `${codesLeft} recovery codes are`;
  return (
    <>
      <p>
        It is on. {left} left{codesLeft < 4 ? ': make new ones soon.' : '.'}
      </p>
      {wants === null ? (
        <div className="d-flex gap-2">
          <Button variant="plain" onClick={() => setWants('codes')}>
            Make new recovery codes
          </Button>
          <Button variant="plain" onClick={() => setWants('end')}>
            Turn it off
          </Button>
        </div>
      ) : (
        <CodeForm
          label="Code from your device, or a recovery code"
          isBusy={making.isLoading || ending.isLoading}
          error={wants === 'codes' ? making.error : ending.error}
          onSend={async (code) => {
            if (wants === 'codes') {
              const { data } = await make({ code });
              if (data) onCodes(data.codes);
            } else {
              const { error } = await end({ code });
              if (!error) toast('The second factor is off');
            }
          }}
          action={wants === 'codes' ? 'Make new recovery codes' : 'Turn it off'}
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
        These codes stand in for your device, each once. Keep them where you find them without it;
        they are not shown again.
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
              .then(() => toast('The codes are copied'))
              .catch(() => toast.warning('Mark the codes and copy them yourself.'))
          }
        >
          Copy
        </Button>
        <Button variant="plain" onClick={onDone}>
          I have kept them
        </Button>
      </div>
    </div>
  );
}
