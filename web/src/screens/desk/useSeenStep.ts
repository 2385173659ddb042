import { linesApi } from '../../api/lines.ts';
import { useBooks } from '../../app/useBooks.ts';
import { decidedAsked, stacksAsked } from './rowsAsked.ts';
import { useDeskScope } from './useDeskScope.ts';

/** As of which step the rows of the Desk are shown: what changed since is left out by the server. */
export function useSeenStep(): number {
  const { booksId } = useBooks();
  const scope = useDeskScope();
  const { data: open } = linesApi.endpoints.stacks.useQueryState(stacksAsked(booksId, scope));
  const { data: decided } = linesApi.endpoints.decidedLines.useInfiniteQueryState(
    decidedAsked(booksId, scope),
  );
  return (scope.lane === 'decided' ? decided?.pages[0]?.seenStep : open?.seenStep) ?? 0;
}
