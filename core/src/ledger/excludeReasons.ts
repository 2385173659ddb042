/** Why a line may be kept out of the books, in the words of the screens and of the history. */
export const excludeReasons = {
  secondCopy: 'second copy',
  beforeOpening: 'before the opening balance',
  bankError: 'bank error with its correction',
  otherAccount: 'belongs to another bank account',
} as const;

/** A reason for keeping a line out of the books. */
export type ExcludeReason = keyof typeof excludeReasons;

/** Reasons of lines that the bank did not really move here: they weigh nothing in the proof. */
export const weightlessReasons = [
  'secondCopy',
  'beforeOpening',
  'otherAccount',
] as const satisfies readonly ExcludeReason[];
