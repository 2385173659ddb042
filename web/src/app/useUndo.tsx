import { useCallback } from 'react';
import { toast } from 'sonner';
import { api } from './api.ts';
import { shownProblem } from './problem.ts';
import { useBooksId } from './useBooks.ts';

/** Ways to take steps back and tell of it. */
export interface Undo {
  /** Takes back a step, or one's own latest without a number. */
  readonly undo: (step?: number) => Promise<void>;
  /** Brings back a step, or the one taken back last without a number. */
  readonly redo: (step?: number) => Promise<void>;
  /** Tells of a step just done, with Undo in it. */
  readonly tell: (words: string, step: number | null) => void;
}

/** Undo, redo and the toast that offers undo, for the books on the screen. */
export function useUndo(): Undo {
  const booksId = useBooksId();
  const [sendUndo] = api.useUndoMutation();
  const [sendRedo] = api.useRedoMutation();

  const redo = useCallback(
    async (step?: number) => {
      const answer = await sendRedo({ booksId, step: step ?? null });
      if (answer.data) toast(answer.data.words);
      else toast.error(shownProblem(answer.error).message);
    },
    [booksId, sendRedo],
  );

  const undo = useCallback(
    async (step?: number) => {
      const answer = await sendUndo({ booksId, step: step ?? null, withLater: false });
      if (answer.data) {
        toast(answer.data.words, { action: { label: 'Redo', onClick: () => void redo() } });
      } else toast.error(shownProblem(answer.error).message);
    },
    [booksId, sendUndo, redo],
  );

  const tell = useCallback(
    (words: string, step: number | null) => {
      if (step === null) toast(words);
      else toast(words, { action: { label: 'Undo', onClick: () => void undo(step) } });
    },
    [undo],
  );

  return { undo, redo, tell };
}
