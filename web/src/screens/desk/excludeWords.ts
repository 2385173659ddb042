import type { ExcludeReason } from '@zubrell/contract/desk';

/** Reasons to keep a line out of the books, as they are chosen. */
export const reasonNames: Readonly<Record<ExcludeReason, string>> = {
  secondCopy: 'Second copy',
  beforeOpening: 'Before the opening balance',
  bankError: 'Bank error with its correction',
};

/** What has to be true for each. */
export const reasonMeanings: Readonly<Record<ExcludeReason, string>> = {
  secondCopy: 'The bank moved this money once, but the line was imported twice.',
  beforeOpening: 'The opening balance already includes it.',
  bankError: 'The bank booked it in error and took it back. Both lines are excluded together.',
};
