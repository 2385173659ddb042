import { useCallback } from 'react';
import { toast } from 'sonner';
import { api } from './api.ts';
import { shownProblem } from './problem.ts';
import { useBooksId } from './useBooks.ts';

/** What a command answered: a step and what it left out, or what went wrong. */
export interface CommandAnswer {
  readonly data?:
    | {
        readonly words: string;
        readonly step: number | null;
        readonly leftOut?: readonly { readonly message: string }[];
      }
    | undefined;
  readonly error?: unknown;
}

/** Ways to take steps back and tell of it. */
export interface Undo {
  /** Takes back a step, or one's own latest without a number. */
  readonly undo: (step?: number) => Promise<void>;
  /** Brings back a step, or the one taken back last without a number. */
  readonly redo: (step?: number) => Promise<void>;
  /** Tells of a step just done, with Undo in it. */
  readonly tell: (words: string, step: number | null) => void;
  /** Tells what came of a command. @returns whether anything was done */
  readonly told: (answer: CommandAnswer) => boolean;
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

  const told = useCallback(
    ({ data, error }: CommandAnswer) => {
      if (!data) {
        toast.error(shownProblem(error).message);
        return false;
      }
      const [first, ...others] = data.leftOut ?? [];
      if (data.step !== null) tell(data.words, data.step);
      if (first) {
        const count = others.length === 0 ? '' : ` And ${others.length} more were left out.`;
        toast.warning(`Left out: ${first.message}${count}`);
      }
      return data.step !== null;
    },
    [tell],
  );

  return { undo, redo, tell, told };
}
