import type { Habit } from '@zubrell/contract/habits';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { booksApi } from '../../api/books.ts';
import { linesApi } from '../../api/lines.ts';
import { countLines } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Combobox } from '../../ui/Combobox.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';

/** What a habit can be merged with: by its payee, or by its stems. */
interface Other {
  readonly key: string;
  readonly name: string;
  readonly stems: readonly string[];
  /** How many lines it is made of, where that is known here. */
  readonly times: number | null;
}

/** Says that two habits are one: the same payee, or the same look-alikes. */
export function MergeHabit({
  habit,
  habits,
}: {
  readonly habit: Habit;
  readonly habits: readonly Habit[];
}) {
  const { booksId, setup } = useBooks();
  const navigate = useNavigate();
  const { told } = useUndo();
  const [isOpen, setIsOpen] = useState(false);
  const [into, setInto] = useState<string | null>(null);
  const [mergePayee] = booksApi.useMergePayeeMutation();
  const [mergeStacks] = linesApi.useMergeStacksMutation();
  // Any payee, as not all habits are listed where there are many; look-alikes have no name but their habit's.
  const ofPayees = new Map(habits.map((each) => [each.payeeId, each]));
  const others: readonly Other[] =
    habit.payeeId === null
      ? habits.filter(({ key, payeeId, markId }) => key !== habit.key && !payeeId && !markId)
      : setup.payees
          .filter(({ id, isOn, mergedInto }) => id !== habit.payeeId && isOn && mergedInto === null)
          .map(({ id, name }) => ({
            key: id,
            name,
            stems: [],
            times: ofPayees.get(id)?.times ?? null,
          }));
  if (others.length === 0) return null;

  async function merge(): Promise<void> {
    const other = others.find(({ key }) => key === into);
    if (!other) return;
    const answer =
      habit.payeeId === null
        ? await mergeStacks({
            booksId,
            stems: [...habit.stems, ...other.stems],
            into: other.stems[0] ?? '',
          })
        : await mergePayee({ booksId, payeeId: habit.payeeId, into: other.key });
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
        <Dialog title={t`Merge ${habit.name} with another habit`} onClose={() => setIsOpen(false)}>
          <Modal.Body>
            <Combobox
              label={t`The other habit`}
              placeholder={t`Choose the other one`}
              choices={others.map(({ key, name, times }) => ({
                id: key,
                label: name,
                ...(times === null ? {} : { hint: countLines(times) }),
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
