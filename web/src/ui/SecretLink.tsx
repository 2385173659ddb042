import { t } from '@zubrell/core/words/t';
import type { ReactNode } from 'react';
import { Button } from 'react-bootstrap';
import { toast } from '../app/toast.ts';
import './secretLink.scss';

/** A link that is shown this once, to be copied and sent to somebody. */
export function SecretLink({
  label,
  link,
  children,
}: {
  readonly label: string;
  readonly link: string;
  /** Whom to send it to, and what it does. */
  readonly children: ReactNode;
}) {
  return (
    <div className="secret-link" role="status">
      <p>{children}</p>
      <div className="d-flex gap-2">
        <input
          className="form-control mono"
          aria-label={label}
          readOnly
          value={link}
          onFocus={({ target }) => target.select()}
        />
        <Button
          variant="plain"
          onClick={() =>
            void navigator.clipboard
              .writeText(link)
              .then(() => toast(t`Link copied`))
              .catch(() => toast.warning(t`Copying didn’t work. Select the link and copy it.`))
          }
        >
          {t`Copy`}
        </Button>
      </div>
    </div>
  );
}
