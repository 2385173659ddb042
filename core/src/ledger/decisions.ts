/** What can be decided about a line. */
export const decisionKinds = ['posted', 'paired', 'excluded', 'deleted'] as const;
export type DecisionKind = (typeof decisionKinds)[number];

/** How lines were posted: alone, as a stack, unread in a sweep, onto the suspense account, or at once by a rule. */
export const postedWays = ['line', 'stack', 'sweep', 'suspense', 'rule'] as const;
export type PostedWay = (typeof postedWays)[number];

/** Lanes of lines that something is proposed for. */
export const proposedLanes = ['ready', 'check'] as const;

/** Lanes of open lines. */
export const openLanes = [...proposedLanes, 'blank', 'asked'] as const;
