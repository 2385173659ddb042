/** What can be decided about a line. */
export const decisionKinds = ['posted', 'paired', 'excluded', 'deleted'] as const;
export type DecisionKind = (typeof decisionKinds)[number];
