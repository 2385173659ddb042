import { t } from '../words/t.ts';
/** The reasons that somebody can give for keeping a line out of the books. */
export const givenExcludeReasons = ['secondCopy', 'beforeOpening', 'bankError'] as const;

/** A reason for keeping a line out of the books. */
export const keptOutReasons = [...givenExcludeReasons, 'otherAccount', 'corrected'] as const;
export type ExcludeReason = (typeof keptOutReasons)[number];

/** Why a line may be kept out of the books, in the words of the screens and of the history. */
export const excludeReasons: Readonly<Record<ExcludeReason, string>> = {
  secondCopy: t`second copy`,
  beforeOpening: t`before the opening balance`,
  bankError: t`bank error with its correction`,
  otherAccount: t`belongs to another bank account`,
  corrected: t`replaced by a line with the right amount`,
};

/** Reasons of lines that the bank did not really move here: they weigh nothing in the proof. */
export const weightlessReasons = [
  'secondCopy',
  'beforeOpening',
  'otherAccount',
  'corrected',
] as const satisfies readonly ExcludeReason[];
