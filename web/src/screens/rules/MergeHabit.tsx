import type { Habit } from '@zubrell/contract/habits';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { booksApi } from '../../api/books.ts';
import { linesApi } from '../../api/lines.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Combobox } from '../../ui/Combobox.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';

/** Says that two habits are one: the same payee, or the same look-alikes. */
export function MergeHabit({
  habit,
  habits,
}: {
  readonly habit: Habit;
  readonly habits: readonly Habit[];
}) {
  const { booksId } = useBooks();
  const navigate = useNavigate();
  const { told } = useUndo();
  const [isOpen, setIsOpen] = useState(false);
  const [into, setInto] = useState<string | null>(null);
  const [mergePayee] = booksApi.useMergePayeeMutation();
  const [mergeStacks] = linesApi.useMergeStacksMutation();
  const others = habits.filter(
    (other) =>
      other.key !== habit.key &&
      other.markId === null &&
      (other.payeeId === null) === (habit.payeeId === null),
  );
  if (others.length === 0) return null;

  async function merge(): Promise<void> {
    const other = others.find(({ key }) => key === into);
    if (!other) return;
    const answer =
      habit.payeeId && other.payeeId
        ? await mergePayee({ booksId, payeeId: habit.payeeId, into: other.payeeId })
        : await mergeStacks({
            booksId,
            stems: [...habit.stems, ...other.stems],
            into: other.stems[0] ?? '',
          });
    if (!told(answer)) return;
    setIsOpen(false);
    navigate(`/books/${booksId}/habits?habit=${encodeURIComponent(other.key)}`);
  }

  return (
    <>
      <Button variant="plain" onClick={() => setIsOpen(true)}>
        {t`Merge with …`}
      </Button>
      {isOpen && (
        <Dialog title={t`${habit.name} is really`} onClose={() => setIsOpen(false)}>
          <Modal.Body>
            <Combobox
              label={t`The other habit`}
              placeholder={t`Choose the other one`}
              choices={others.map(({ key, name, times }) => ({
                id: key,
                label: name,
                hint: t`${times} lines`,
              }))}
              value={into}
              onChange={setInto}
              autoFocus
            />
          </Modal.Body>
          <DialogFoot isOff={into === null} onLeave={() => setIsOpen(false)} onConfirm={merge}>
            {t`Merge habits`}
          </DialogFoot>
        </Dialog>
      )}
    </>
  );
}
