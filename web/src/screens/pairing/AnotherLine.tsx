import { skipToken } from '@reduxjs/toolkit/query';
import type { PairingView } from '@zubrell/contract/pairing';
import type { LineId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { linesApi } from '../../api/lines.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useLater } from '../../app/useLater.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { TextField } from '../../ui/TextField.tsx';

const OPEN = new Set(['ready', 'check', 'blank', 'asked']);

/** Finds another open line that belongs to the same pairing. */
export function AnotherLine({
  view,
  onAdd,
  onClose,
}: {
  readonly view: PairingView;
  readonly onAdd: (lineId: LineId) => void;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const showDate = useShowDate();
  const [typed, setTyped] = useState('');
  const search = useLater(typed.trim());
  const { data, error } = linesApi.useFindLinesQuery(
    search === '' ? skipToken : { booksId, search },
  );
  const there = new Set(view.lines.map(({ id }) => id));
  const found = (data?.lines ?? []).filter(({ id, state }) => OPEN.has(state) && !there.has(id));
  return (
    <Dialog title={t`Another line`} onClose={onClose}>
      <Modal.Body>
        <TextField
          label={t`Text or amount of an open line`}
          autoFocus
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
        />
        {error !== undefined && <ErrorNote error={error} />}
        {search !== '' && data && found.length === 0 && (
          <p className="quiet mt-2 mb-0">{t`No other open lines match.`}</p>
        )}
        <ul className="line-choices">
          {found.map((line) => (
            <li key={line.id}>
              <Button
                variant="plain"
                onClick={() => {
                  onAdd(line.id);
                  onClose();
                }}
              >
                <span>{showDate(line.date)}</span>
                <span className="mono">{line.description}</span>
                <Amount minor={line.amount} />
              </Button>
            </li>
          ))}
        </ul>
      </Modal.Body>
    </Dialog>
  );
}
