import type { Minor } from '../money/minor.ts';

/** How a month of books stands at a glance: closed, with lines and not closed, or without any. */
export const glanceStates = ['closed', 'open', 'none'] as const;

/** What of books is kept to be shown in a list of many. */
export interface BooksGlance {
  readonly open: number;
  readonly ready: number;
  readonly check: number;
  /** Lines about which a question is out. */
  readonly asked: number;
  readonly oldestAsked: string | null;
  readonly askedOf: string | null;
  readonly unexplained: Minor;
  /** The feed that is in trouble, by name. */
  readonly troubledFeed: string | null;
  /** The oldest month that has lines and isn't closed. */
  readonly openMonth: string | null;
}

/** What is next to do in books, the most pressing first. */
export const nextKinds = [
  'signIn',
  'findCause',
  'remind',
  'postReady',
  'goOn',
  'closeMonth',
  'nothing',
] as const;
export type NextKind = (typeof nextKinds)[number];

/** After so many days without an answer somebody is reminded. */
const REMIND_AFTER = 14;

/**
 * What is next to do in books.
 *
 * @param askedDays for how many days the oldest question has been out
 * @param currentMonth the month that isn't over, as `2026-04`
 */
export function nextInBooks(
  { open, ready, unexplained, troubledFeed, oldestAsked, openMonth }: BooksGlance,
  askedDays: number,
  currentMonth: string,
): NextKind {
  if (troubledFeed !== null) return 'signIn';
  if (unexplained !== 0) return 'findCause';
  if (oldestAsked !== null && askedDays >= REMIND_AFTER) return 'remind';
  if (ready > 0) return 'postReady';
  if (open > 0) return 'goOn';
  return openMonth !== null && openMonth < currentMonth ? 'closeMonth' : 'nothing';
}

/** Whether books need somebody today, and don't just go on. */
export function needsSomebody(next: NextKind): boolean {
  return next === 'signIn' || next === 'findCause' || next === 'remind';
}
