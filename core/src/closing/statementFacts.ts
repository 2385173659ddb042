import type { CalendarDate } from '../dates/calendarDate.ts';
import type { LineId } from '../ids.ts';
import type { DatedBalance } from '../intake/balanceChain.ts';
import type { Minor } from '../money/minor.ts';
import type { BalancedLine } from './checkpoints.ts';
import type { Period } from './periods.ts';

/** A line of a statement or near it. */
export interface StatementLine extends BalancedLine {
  readonly id: LineId;
  readonly wording: string;
  /** What look-alikes have in common. */
  readonly stem: string;
  /** Whether somebody typed it, so that it may be mistyped. */
  readonly isTyped: boolean;
  /** Whether it is doubted already: it may be a second copy. */
  readonly isDoubted: boolean;
}

/** An earlier line of the account. */
export interface EarlierLine {
  readonly date: CalendarDate;
  readonly amount: Minor;
  readonly stem: string;
}

/** All that is known of a statement that does not add up. */
export interface StatementFacts {
  readonly period: Period;
  /** What the statement before closed at. */
  readonly opening: Minor;
  /** What this statement itself says that it opened at; null where it doesn't. */
  readonly statedOpening: Minor | null;
  readonly closing: Minor;
  readonly isClosingTyped: boolean;
  /** The lines that count, by day and in the order of their file. */
  readonly lines: readonly StatementLine[];
  /** Lines of the period that are kept out and don't count. */
  readonly keptOut: readonly StatementLine[];
  /** Lines that count in the statement before, near the edge. */
  readonly before: readonly StatementLine[];
  /** Lines that count in the statement after, near the edge. */
  readonly after: readonly StatementLine[];
  /** Lines that the bank has announced, and not booked where we have looked. */
  readonly announced: readonly StatementLine[];
  /** The account's lines before the period: of half a year or so. */
  readonly earlier: readonly EarlierLine[];
  /** Balances that the bank states at the end of days in the period, beside those of lines. */
  readonly stated: readonly DatedBalance[];
}

/** How much the statement says more than opening and lines add up to. */
export function differenceOf({ opening, closing, lines }: StatementFacts): Minor {
  let sum = opening;
  for (const { amount } of lines) sum += amount;
  return closing - sum;
}
