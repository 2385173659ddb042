/**
 * What a step can make, change or remove, so that its undo puts it back. They stand in the order in which things
 * come to be: each may rest on those before it.
 */
export const stepThings = [
  'books',
  'account',
  'payee',
  'costObject',
  'bankAccount',
  'taxCode',
  /** What a currency was worth on a day. */
  'exchangeRate',
  /** A journal that recurs. */
  'journalPlan',
  'batch',
  /** That a line is here by itself, whatever batches have seen it. */
  'lineHere',
  'entry',
  'document',
  /** Documents settled against each other. */
  'offset',
  /** What was decided about a line. */
  'line',
  /** The line that a line may be a second copy of. */
  'twice',
  /** A tax return that was filed. */
  'taxReturn',
  'statement',
  /** On which day a line, or an entry that was ticked, counts in statements. */
  'statementDay',
  /** How far the closing of a month is. */
  'closing',
  /** That a reviewer has looked at a line. */
  'lineReview',
  'question',
  'alias',
  'dismissal',
  'rule',
  'habitMark',
] as const;

/** A kind of thing that steps touch. */
export type StepThing = (typeof stepThings)[number];

/** What can be needed by a step without being touched by it. */
export const neededThings = [...stepThings, 'decision'] as const;

/** A kind of thing that steps need. */
export type NeededThing = (typeof neededThings)[number];
