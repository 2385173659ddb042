import type { Entry } from '@zubrell/contract/ledger';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { ledgerApi } from '../../api/ledger.ts';
import { linesApi } from '../../api/lines.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { EntryDialog } from './EntryDialog.tsx';
import { PlanDialog } from './PlanDialog.tsx';
import { planStartOf } from './planDraft.ts';
import { ReverseDialog } from './ReverseDialog.tsx';

/** What can be done with an entry: undo its pairing, change or void it, take its step back. */
export function EntryActions({
  entry,
  onClose,
}: {
  readonly entry: Entry;
  readonly onClose: () => void;
}) {
  const { booksId, setup } = useBooks();
  const { undo, told } = useUndo();
  const [reopen] = linesApi.useReopenLinesMutation();
  const [voidEntry] = ledgerApi.useVoidEntryMutation();
  const [open, setOpen] = useState<'change' | 'reverse' | 'repeat' | null>(null);
  if (entry.isVoid) return null;
  const isByHand = entry.content !== null;
  const isTied = entry.lines.length > 0;
  const isOnBank = entry.legs.some(({ accountId }) =>
    setup.bankAccounts.some((bank) => bank.accountId === accountId),
  );
  const lineIds = entry.lines.map(({ id }) => id);
  return (
    <div className="d-flex flex-wrap gap-2">
      {isTied && (
        <Button
          variant="plain"
          onClick={() =>
            void reopen({ booksId, target: { lineIds }, seenStep: entry.seenStep }).then(
              (answer) => {
                // What a line made goes with it.
                if (told(answer) && !isByHand) onClose();
              },
            )
          }
        >
          {entry.kind === 'line' ? t`Reopen line` : t`Undo pairing`}
        </Button>
      )}
      {isByHand && !isTied && (
        <>
          <Button variant="plain" onClick={() => setOpen('change')}>
            {t`Change entry`}
          </Button>
          {entry.kind === 'journal' && !isOnBank && (
            <>
              {entry.reverses === null && entry.reversedBy === null && (
                <Button variant="plain" onClick={() => setOpen('reverse')}>
                  {t`Reverse journal`}
                </Button>
              )}
              {entry.plan === null && (
                <Button variant="plain" onClick={() => setOpen('repeat')}>
                  {t`Repeat journal`}
                </Button>
              )}
            </>
          )}
          <Button
            variant="plain"
            onClick={() =>
              void voidEntry({ booksId, entryId: entry.id }).then((answer) => {
                if (told(answer)) onClose();
              })
            }
          >
            {t`Void entry`}
          </Button>
        </>
      )}
      <Button variant="plain" onClick={() => void undo(entry.step).then(onClose)}>
        {t`Undo step ${entry.step}`}
      </Button>
      {open === 'reverse' && <ReverseDialog entry={entry} onClose={() => setOpen(null)} />}
      {open === 'repeat' && (
        <PlanDialog plan={null} start={planStartOf(entry)} onClose={() => setOpen(null)} />
      )}
      {open === 'change' && (
        <EntryDialog
          entry={entry}
          onClose={(id) => {
            setOpen(null);
            if (id !== undefined) onClose();
          }}
        />
      )}
    </div>
  );
}
