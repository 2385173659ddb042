/** How a statement stands: it was never agreed, it is, or it was and was opened again. */
export const statementStates = ['open', 'agreed', 'reopened'] as const;

/** How a line of a statement stands; an entry that is ticked or not is `entry`. */
export const statementRowStates = [
  'open',
  'asked',
  'posted',
  'paired',
  'excluded',
  'deleted',
  'entry',
] as const;
export type StatementRowState = (typeof statementRowStates)[number];
