import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { linesApi } from '../../api/lines.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { ticksCleared } from './deskSlice.ts';
import { stemsOf } from './rows.ts';

/** Says that the ticked stacks are one payee's; not there while fewer than two are ticked. */
export function MergeButton() {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const dispatch = useAppDispatch();
  const stems = stemsOf(useAppSelector((state) => state.desk.ticked));
  const [merge, { isLoading }] = linesApi.useMergeStacksMutation();
  const [into] = stems;
  if (into === undefined || stems.length < 2) return null;

  async function send(target: string): Promise<void> {
    if (told(await merge({ booksId, stems, into: target }))) dispatch(ticksCleared());
  }

  return (
    <Button variant="plain" disabled={isLoading} onClick={() => void send(into)}>
      {t`Merge payees`}
    </Button>
  );
}
