import type { ExcludeReason } from '@zubrell/contract/desk';
import { t } from '@zubrell/core/words/t';

/** Reasons to keep a line out of the books, as they are chosen. */
export const reasonNames: Readonly<Record<ExcludeReason, string>> = {
  secondCopy: t`Second copy`,
  beforeOpening: t`Before the opening balance`,
  bankError: t`Bank error with its correction`,
};

/** What has to be true for each. */
export const reasonMeanings: Readonly<Record<ExcludeReason, string>> = {
  secondCopy: t`The bank moved this money once, but the line was imported twice.`,
  beforeOpening: t`The opening balance already includes it.`,
  bankError: t`The bank booked it in error and took it back. Both lines are excluded together.`,
};
