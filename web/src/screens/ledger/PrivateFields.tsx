import type { PayeeId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { useBooks } from '../../app/useBooks.ts';
import { SelectField } from '../../ui/SelectField.tsx';

/** Of a cost that was paid privately: which owner paid, and the receipt to keep with it. */
export function PrivateFields({
  ownerId,
  receipt,
  onOwner,
  onReceipt,
}: {
  readonly ownerId: PayeeId | null;
  /** The file that is chosen; null for none yet. */
  readonly receipt: File | null;
  readonly onOwner: (ownerId: PayeeId | null) => void;
  readonly onReceipt: (file: File | null) => void;
}) {
  const { setup } = useBooks();
  const owners = setup.payees.filter(({ kind, isOn }) => kind === 'owner' && isOn);
  const { getRootProps, getInputProps, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    onDrop: ([file]) => file && onReceipt(file),
  });
  return (
    <div className="form-row">
      {owners.length > 0 && (
        <SelectField
          label={t`Paid by`}
          value={ownerId ?? ''}
          onChange={({ target }) => onOwner(target.value || null)}
        >
          <option value="">{t`The owner`}</option>
          {owners.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
      )}
      <div {...getRootProps()}>
        <span className="small-heading">{t`Receipt`}</span>
        <input {...getInputProps({ 'aria-label': t`Receipt` })} />
        <span className="d-flex gap-2 align-items-center">
          <Button variant="plain" onClick={open}>
            {receipt === null ? t`Choose a file` : t`Choose another`}
          </Button>
          <span className="quiet">{receipt?.name ?? t`PDF, PNG or JPEG`}</span>
        </span>
      </div>
    </div>
  );
}
