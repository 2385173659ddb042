import type { DeskLine, Stack } from '@zubrell/contract/desk';
import { linesApi } from '../../api/lines.ts';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useDeskScope } from './useDeskScope.ts';

/**
 * Fetches the open lines of a stack.
 *
 * @returns what does so, from what is shown of it where that is enough; it answers null, and says why, where it can't
 */
export function useStackLines(): (
  stack: Pick<Stack, 'grouping' | 'key' | 'direction'>,
  isShownEnough: boolean,
) => Promise<readonly DeskLine[] | null> {
  const { booksId } = useBooks();
  const { lane, scope } = useDeskScope();
  const [fetchLines] = linesApi.useLazyStackLinesQuery();
  return async ({ grouping, key, direction }, isShownEnough) => {
    const openLane = lane === 'decided' ? 'blank' : lane;
    const stack = { grouping, key, direction };
    const { data, error } = await fetchLines(
      { booksId, ...scope, lane: openLane, ...stack },
      isShownEnough,
    );
    if (error === undefined && data) return data.lines;
    toast.error(shownProblem(error).message);
    return null;
  };
}
