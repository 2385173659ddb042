import type { CalendarDate } from '../dates/calendarDate.ts';
import type { LineId } from '../ids.ts';
import type { Minor } from '../money/minor.ts';

/**
 * What can make a statement not add up: the same payment twice, a sign turned, two digits swapped in a line or in the
 * closing balance, a line missing, one kept out although it is real, lines on the wrong side of the edge, one that was
 * announced and booked, and an opening balance that is not the one before.
 */
export const statementCauseKinds = [
  'sameTwice',
  'signTurned',
  'digitsSwapped',
  'lineMissing',
  'keptOut',
  'overEdge',
  'announcedBooked',
  'opening',
  'closingMistyped',
] as const;
export type StatementCauseKind = (typeof statementCauseKinds)[number];

/** What counts in a statement: lines of the bank, or entries that were ticked against a printed one. */
export const countedKinds = ['line', 'leg'] as const;

/** How sure it is that a cause is the one. */
export const likelihoods = ['very likely', 'likely', 'possible', 'unlikely'] as const;
export type Likelihood = (typeof likelihoods)[number];

/** Over which edge lines belong: to the statement after, to the one before, or into this one from there. */
export const edgeMoves = ['toNext', 'toPrevious', 'fromNext', 'fromPrevious'] as const;
export type EdgeMove = (typeof edgeMoves)[number];

/** One thing that would make a statement add up more nearly. */
export interface SingleCause {
  readonly kind: StatementCauseKind;
  /** What "adds up to" would change by, or the statement's own balance the other way. */
  readonly amount: Minor;
  /** The lines that it is about; what is to be done concerns the first, of lines over the edge all. */
  readonly lineIds: readonly LineId[];
  /** What the first line, or the balance, would say instead. */
  readonly instead: Minor | null;
  readonly move: EdgeMove | null;
  /** Between which days a line is missing. */
  readonly from: CalendarDate | null;
  readonly to: CalendarDate | null;
  /** Why it is thought, in few words, for whoever reads. */
  readonly reasons: readonly CauseReason[];
}

/** Why a cause is thought to be the one. */
export const causeReasons = [
  'sameWording',
  'likeWording',
  'sameDay',
  'daysApart',
  'doubted',
  'oftenAlike',
  'othersOtherWay',
  'othersSameWay',
  'usualAmount',
  'typed',
  'balanceBreaks',
  'balanceHolds',
  'usualPayment',
  'atEdge',
  'allFromDay',
  'otherAmount',
  'stated',
] as const;
export type CauseReason = (typeof causeReasons)[number];

/** What would explain a difference: one cause, or two together. */
export interface Explanation {
  readonly causes: readonly SingleCause[];
  readonly likelihood: Likelihood;
}
