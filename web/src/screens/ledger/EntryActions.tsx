import type { Entry } from '@zubrell/contract/ledger';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { ledgerApi } from '../../api/ledger.ts';
import { linesApi } from '../../api/lines.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { EntryDialog } from './EntryDialog.tsx';

/** What can be done with an entry: undo its pairing, change or void it, take its step back. */
export function EntryActions({
  entry,
  onClose,
}: {
  readonly entry: Entry;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { undo, told } = useUndo();
  const [reopen] = linesApi.useReopenLinesMutation();
  const [voidEntry] = ledgerApi.useVoidEntryMutation();
  const [isChanging, setIsChanging] = useState(false);
  if (entry.isVoid) return null;
  const isByHand = entry.content !== null;
  const isTied = entry.lines.length > 0;
  const lineIds = entry.lines.map(({ id }) => id);
  return (
    <div className="d-flex flex-wrap gap-2">
      {isTied && (
        <Button
          variant="plain"
          onClick={() =>
            void reopen({ booksId, lineIds, seenStep: entry.seenStep }).then((answer) => {
              // What a line made goes with it.
              if (told(answer) && !isByHand) onClose();
            })
          }
        >
          {entry.kind === 'line' ? 'Open the line again' : 'Undo the pairing'}
        </Button>
      )}
      {isByHand && !isTied && (
        <>
          <Button variant="plain" onClick={() => setIsChanging(true)}>
            Change it
          </Button>
          <Button
            variant="plain"
            onClick={() =>
              void voidEntry({ booksId, entryId: entry.id }).then((answer) => {
                if (told(answer)) onClose();
              })
            }
          >
            Void it
          </Button>
        </>
      )}
      <Button variant="plain" onClick={() => void undo(entry.step).then(onClose)}>
        Take back its step
      </Button>
      {isChanging && (
        <EntryDialog
          entry={entry}
          onClose={(id) => {
            setIsChanging(false);
            if (id !== undefined) onClose();
          }}
        />
      )}
    </div>
  );
}
