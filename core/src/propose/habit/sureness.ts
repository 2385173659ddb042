import type { Signs } from './predict.ts';
import { BIAS, KNOTS, SCALES } from './surenessWeights.ts';

/** A sign in a few steps: how much each step adds to the log odds of being right. */
export interface Scale {
  /** Where the steps end; the last step goes on for ever. */
  readonly limits: readonly number[];
  readonly weights: readonly number[];
}

/** What log odds were said, and what they turned out to be. */
export interface Knot {
  readonly said: number;
  readonly was: number;
}

/** The signs that sureness is read from, each as one number. */
export const readings = {
  odds: ({ first }) => Math.log((first + 0.001) / (1.001 - first)),
  margin: ({ first, second }) => first - second,
  likeness: ({ likeness }) => likeness,
  shared: ({ shared }) => shared,
  same: ({ same }) => same,
  payee: ({ payeeShare }) => payeeShare,
  other: ({ likeness, otherLikeness }) => likeness - otherLikeness,
  times: ({ timesFirst }) => timesFirst,
  agreed: ({ times, timesFirst }) => timesFirst / Math.max(1, times),
  newest: ({ newest }) => newest,
  amount: ({ amountApart }) => amountApart,
  side: ({ isSameSide }) => Number(isSameSide),
  bank: ({ isSameBank }) => Number(isSameBank),
  separated: ({ separated, times, timesFirst }) => (times === timesFirst ? 2 : separated),
  since: ({ daysSince }) => daysSince,
  fresh: ({ amountApart, likeness }) => Math.min(amountApart, 1) + (1 - likeness),
  // Two signs at once, where one means something else beside the other.
  thin: ({ shared, likeness }) =>
    8 * Math.floor(Math.min(shared, 3.49) * 2) + Math.min(7, Math.floor((1 - likeness) * 20)),
  seldom: ({ times, timesFirst, likeness }) =>
    4 * (times === timesFirst ? Math.min(times, 5) : 0) +
    Math.max(0, Math.min(3, Math.floor(likeness * 10) - 6)),
  divided: ({ times, timesFirst, first, amountApart }) =>
    times === timesFirst
      ? -1
      : 4 * Math.floor(first * 7.999) + [0.01, 0.1, 0.4].filter((far) => amountApart >= far).length,
} as const satisfies Readonly<Record<string, (signs: Signs) => number>>;

export type Reading = keyof typeof readings;
/** All readings, in their order. */
export const readingNames = Object.keys(readings) as readonly Reading[];

/** Which step of a scale a reading lies on. @example stepOf([1, 5], 3) // 1 */
export function stepOf(limits: readonly number[], reading: number): number {
  let step = 0;
  while (step < limits.length && reading >= (limits[step] ?? 0)) step += 1;
  return step;
}

/**
 * The log odds that a prediction's first account is right: an additive logistic model over its signs, with
 * weights fitted on made-up businesses (`npm run bench -- fitSureness`).
 */
export function oddsOf(signs: Signs): number {
  return straightened(rawOddsOf(signs));
}

/** The odds that the additive model gives, before they are straightened. */
export function rawOddsOf(signs: Signs): number {
  let odds = BIAS;
  for (const name of readingNames) {
    const { limits, weights } = SCALES[name];
    odds += weights[stepOf(limits, readings[name](signs))] ?? 0;
  }
  return odds;
}

/** Log odds as they turned out to be, between the knots of a line that was fitted apart. */
function straightened(odds: number): number {
  const [first] = KNOTS;
  let before = first;
  for (const knot of KNOTS) {
    if (odds < knot.said) {
      if (!before || before === knot) return odds + knot.was - knot.said;
      const part = (odds - before.said) / (knot.said - before.said);
      return before.was + part * (knot.was - before.was);
    }
    before = knot;
  }
  return before ? odds + before.was - before.said : odds;
}

/** A probability from log odds. @example probabilityOf(0) // 0.5 */
export function probabilityOf(odds: number): number {
  return 1 / (1 + Math.exp(-odds));
}

/** The log odds of a probability. @example oddsAt(0.5) // 0 */
export function oddsAt(probability: number): number {
  return Math.log(probability / (1 - probability));
}

/** What was predicted with which odds, and whether it was kept. */
export interface Outcome {
  readonly odds: number;
  readonly isRight: boolean;
}

/** How strongly the shipped odds are believed against a book's own record. */
const BELIEF = 30;
/** So many of the newest outcomes are looked at. */
const NEWEST = 800;

/**
 * How much a book's own record shifts all odds: what makes the mean probability that was said equal the
 * share that was right, drawn towards no shift while there is little record (a normal prior, by Newton's
 * method).
 */
export function ownShift(record: readonly Outcome[]): number {
  const newest = record.slice(-NEWEST);
  let shift = 0;
  for (let round = 0; round < 12; round += 1) {
    let slope = -BELIEF * shift;
    let curve = BELIEF;
    for (const { odds, isRight } of newest) {
      const said = probabilityOf(odds + shift);
      slope += Number(isRight) - said;
      curve += said * (1 - said);
    }
    shift += slope / curve;
  }
  return shift;
}
