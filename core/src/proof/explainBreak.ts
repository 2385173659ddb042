import type { CalendarDate } from '../dates/calendarDate.ts';
import type { LineId } from '../ids.ts';
import type { Minor } from '../money/minor.ts';
import { isTransposed } from '../pair/explainDifference.ts';
import { plainWording } from '../text/plainWording.ts';

/**
 * What may have made the bank's balance differ from what lines come to: one line in twice, one kept out although it is
 * real, one with its sign turned, or one with two digits swapped.
 */
export const breakReasons = ['inTwice', 'keptOut', 'turned', 'transposed'] as const;
export type BreakReason = (typeof breakReasons)[number];

/** A line between the last day on which balances added up and the first on which they don't. */
export interface BreakLine {
  readonly id: string;
  readonly date: CalendarDate;
  readonly amount: Minor;
  readonly description: string;
  /** Whether it counts; one that was excluded as a copy, or as before the opening balance, doesn't. */
  readonly isWeighed: boolean;
  /** Whether it is doubted already: it may be a second copy. */
  readonly isDoubted: boolean;
}

/** A line that may have made the difference, and how. */
export interface LikelyCause {
  readonly reason: BreakReason;
  readonly lineId: LineId;
  readonly date: CalendarDate;
  readonly description: string;
}

/**
 * The likeliest line to have made a stated balance differ from what lines come to.
 *
 * @param difference stated less calculated
 * @param lines those dated after the last day on which it added up, up to the first on which it doesn't
 * @returns null where no single line explains it: then a line is missing, or several are wrong
 * @example explainBreak(4850, [coffee, again]) // both −48.50 with one wording: one of them is in twice
 */
export function explainBreak(difference: Minor, lines: readonly BreakLine[]): LikelyCause | null {
  const said = (reason: BreakReason, line: BreakLine | undefined): LikelyCause | null =>
    line ? { reason, lineId: line.id, date: line.date, description: line.description } : null;
  const weighed = lines.filter((line) => line.isWeighed);
  const twins = weighed.filter(({ amount }) => amount === -difference);
  const twin = twins.find((line) =>
    twins.some(
      (other) =>
        other.id !== line.id && plainWording(other.description) === plainWording(line.description),
    ),
  );
  // Digits swapped say little where several lines would do.
  const swapped = weighed.filter(({ amount }) => isTransposed(amount, amount + difference));
  return (
    said(
      'inTwice',
      twins.find(({ isDoubted }) => isDoubted) ??
        twin ??
        (twins.length > 1 ? twins.at(-1) : undefined),
    ) ??
    said(
      'keptOut',
      lines.find(({ isWeighed, amount }) => !isWeighed && amount === difference),
    ) ??
    said(
      'turned',
      weighed.find(({ amount }) => 2 * amount === -difference),
    ) ??
    said('transposed', swapped.length === 1 ? swapped[0] : undefined)
  );
}
