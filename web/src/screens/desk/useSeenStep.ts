import { skipToken } from '@reduxjs/toolkit/query/react';
import { linesApi } from '../../api/lines.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useDeskScope } from './useDeskScope.ts';

/** As of which step the rows of the Desk are shown: what changed since is left out by the server. */
export function useSeenStep(): number {
  const { booksId } = useBooks();
  const { lane, grouping, scope, decision } = useDeskScope();
  const isDecided = lane === 'decided';
  const { data: open } = linesApi.endpoints.stacks.useQueryState(
    isDecided ? skipToken : { booksId, ...scope, lane, grouping },
  );
  const { data: decided } = linesApi.endpoints.decidedLines.useInfiniteQueryState(
    isDecided ? { booksId, ...scope, kind: decision ?? undefined } : skipToken,
  );
  const shown = isDecided ? decided?.pages[0]?.seenStep : open?.seenStep;
  return shown ?? 0;
}
