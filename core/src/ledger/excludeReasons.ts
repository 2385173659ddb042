/** Why a line may be kept out of the books, in the words of the screens and of the history. */
export const excludeReasons = {
  secondCopy: 'second copy',
  beforeOpening: 'before the opening balance',
  bankError: 'bank error with its correction',
  otherAccount: 'belongs to another bank account',
} as const;
