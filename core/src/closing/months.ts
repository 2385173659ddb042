/** How far a month is on its way: prepared for review, sent back, reviewed, closed, or opened again. */
export const closingStates = ['prepared', 'sentBack', 'reviewed', 'closed', 'reopened'] as const;
export type ClosingState = (typeof closingStates)[number];

/** What can stand in the way of closing a month, in the order in which it is shown. */
export const closingChecks = [
  'openLines',
  'unexplained',
  'questions',
  'suspense',
  'transit',
  'outstanding',
  'receipts',
  'postedUnseen',
  'taxCodes',
  'cutOff',
  'journals',
  'currencies',
  'afterReport',
] as const;
export type ClosingCheckKind = (typeof closingChecks)[number];

/** After how many days something is too old to be left, by what it is. */
export const ageLimits = ['suspense', 'transit', 'outstanding'] as const;
export type AgeLimit = (typeof ageLimits)[number];

/** The limits of new books, in days. */
export const usualAges: Readonly<Record<AgeLimit, number>> = {
  suspense: 14,
  transit: 7,
  outstanding: 60,
};
