import { skipToken } from '@reduxjs/toolkit/query/react';
import type { BooksId } from '@zubrell/core/ids';
import type { DeskScope } from './deskScope.ts';

/** How the stacks of the lane on the screen are asked for; nothing is where decided lines are shown. */
export function stacksAsked(booksId: BooksId, { lane, grouping, scope }: DeskScope) {
  return lane === 'decided' ? skipToken : { booksId, ...scope, lane, grouping };
}

/** How decided lines are asked for; nothing is where a lane of open ones is shown. */
export function decidedAsked(booksId: BooksId, { lane, scope, decision }: DeskScope) {
  return lane === 'decided' ? { booksId, ...scope, kind: decision ?? undefined } : skipToken;
}
