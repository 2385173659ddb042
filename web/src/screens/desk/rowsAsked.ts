import { skipToken } from '@reduxjs/toolkit/query/react';
import type { Decided } from '@zubrell/contract/desk';
import type { BooksId } from '@zubrell/core/ids';
import type { DeskScope } from './deskScope.ts';

/** How the stacks of the lane on the screen are asked for; nothing is where decided lines are shown. */
export function stacksAsked(booksId: BooksId, { lane, grouping, scope }: DeskScope) {
  return lane === 'decided' ? skipToken : { booksId, ...scope, lane, grouping };
}

/** How decided lines are asked for; nothing is where a lane of open ones is shown. */
export function decidedAsked(booksId: BooksId, shown: DeskScope) {
  if (shown.lane !== 'decided') return skipToken;
  const { by, isTurned } = shown.sorting;
  const order = by === 'usual' || by === 'count' ? undefined : by;
  const direction = isTurned ? ('true' as const) : ('false' as const);
  return { booksId, ...decidedOf(shown), ...(order && { order, isTurned: direction }) };
}

/** Which decided lines the Desk shows. */
export function decidedOf({ scope, decision, decided }: DeskScope): Decided {
  return { ...scope, ...decided, ...(decision === null ? {} : { kind: decision }) };
}
