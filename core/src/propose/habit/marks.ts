/** What somebody can say about a habit: not to learn from it any more, or to forget what was learned so far. */
export const markKinds = ['blocked', 'forgotten'] as const;
