import { t } from '@zubrell/core/words/t';
import { useCallback } from 'react';
import { stepsApi } from '../api/steps.ts';
import { shownProblem } from './problem.ts';
import { useAppDispatch } from './store.ts';
import { toast } from './toast.ts';
import { type TurnAsked, turnAsked } from './undoSlice.ts';
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
  /** Undoes a step, or one's own latest without a number; with those that rest on it where that is wanted. */
  readonly undo: (step?: number, withLater?: boolean) => Promise<void>;
  /** Redoes a step, or the one undone last without a number; with those that it rests on where that is wanted. */
  readonly redo: (step?: number, withEarlier?: boolean) => Promise<void>;
  /** Tells of a step just done, with Undo in it. */
  readonly tell: (words: string, step: number | null) => void;
  /** Tells what came of a command. @returns whether anything was done */
  readonly told: (answer: CommandAnswer) => boolean;
}

/** Undo, redo and the toast that offers undo, for the books on the screen. */
export function useUndo(): Undo {
  const booksId = useBooksId();
  const [sendUndo] = stepsApi.useUndoMutation();
  const [sendRedo] = stepsApi.useRedoMutation();

  const dispatch = useAppDispatch();

  /** Tells why a step can't be turned; where others would have to go along, asks about them. */
  const refuse = useCallback(
    (direction: TurnAsked['direction'], error: unknown) => {
      const { message, params } = shownProblem(error);
      const { step, count } = params;
      if (typeof step === 'number' && typeof count === 'number') {
        dispatch(turnAsked({ direction, step, message, count }));
      } else toast.error(message);
    },
    [dispatch],
  );

  const redo = useCallback(
    async (step?: number, withEarlier = false) => {
      const answer = await sendRedo({ booksId, step: step ?? null, withEarlier });
      if (answer.data) toast(answer.data.words);
      else refuse('redo', answer.error);
    },
    [booksId, sendRedo, refuse],
  );

  const undo = useCallback(
    async (step?: number, withLater = false) => {
      const answer = await sendUndo({ booksId, step: step ?? null, withLater });
      if (answer.data) {
        toast(answer.data.words, { action: { label: t`Redo`, onClick: () => void redo() } });
      } else refuse('undo', answer.error);
    },
    [booksId, sendUndo, redo, refuse],
  );

  const tell = useCallback(
    (words: string, step: number | null) => {
      if (step === null) toast(words);
      else toast(words, { action: { label: t`Undo`, onClick: () => void undo(step) } });
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
        const count = others.length === 0 ? '' : ` ${t`And ${others.length} more were left out.`}`;
        toast.warning(t`Left out: ${first.message}${count}`);
      }
      return data.step !== null;
    },
    [tell],
  );

  return { undo, redo, tell, told };
}
