/** So many lines of a stack are shown, and taken by their ids, at most: the oldest. */
export const MOST_OF_STACK = 2_000;
