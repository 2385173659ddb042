import type { Signs } from './predict.ts';
import { TREES } from './surenessTrees.ts';

/**
 * A tree of readings: each inner node asks whether a reading is below a limit. The nodes stand level by level; what is
 * below goes to `2 at + 1`, the rest to `2 at + 2`. A leaf adds to the log odds.
 */
export interface Tree {
  /** The reading that each inner node asks, by its place in {@link readingNames}. */
  readonly asks: readonly number[];
  readonly limits: readonly number[];
  readonly leaves: readonly number[];
}

/** Small trees whose leaves add up to log odds. */
export interface Trees {
  /** The log odds before any tree is asked. */
  readonly bias: number;
  readonly trees: readonly Tree[];
}

const logOdds = (share: number) => Math.log((share + 0.001) / (1.001 - share));

/** The signs that sureness is read from, each as one number. */
export const readings = {
  odds: ({ first }) => logOdds(first),
  plain: ({ plain }) => logOdds(plain),
  margin: ({ first, second }) => first - second,
  likeness: ({ likeness }) => likeness,
  shared: ({ shared }) => shared,
  same: ({ same }) => same,
  payee: ({ payeeShare }) => payeeShare,
  other: ({ likeness, otherLikeness }) => likeness - otherLikeness,
  times: ({ times }) => times,
  timesFirst: ({ timesFirst }) => timesFirst,
  agreed: ({ times, timesFirst }) => timesFirst / Math.max(1, times),
  newest: ({ newest }) => newest,
  run: ({ run }) => Math.min(run, 20),
  months: ({ months }) => months,
  amount: ({ amountApart }) => amountApart,
  otherAmount: ({ amountApart, otherApart }) => Math.min(otherApart, 3) - Math.min(amountApart, 3),
  side: ({ isSameSide }) => Number(isSameSide),
  bank: ({ isSameBank }) => Number(isSameBank),
  separated: ({ separated, times, timesFirst }) => (times === timesFirst ? 2 : separated),
  against: ({ against }) => against,
  others: ({ others }) => others,
  separators: ({ separators }) => Math.min(separators, 8),
  accounts: ({ accounts }) => Math.min(accounts, 8),
  since: ({ daysSince }) => Math.min(daysSince, 400),
  numbersSeen: ({ numbersSeen }) => numbersSeen,
  numbersNew: ({ numbersNew }) => numbersNew,
  numberMissing: ({ isNumberMissing }) => Number(isNumberMissing),
} as const satisfies Readonly<Record<string, (signs: Signs) => number>>;

export type Reading = keyof typeof readings;
/** All readings, in their order. */
export const readingNames = Object.keys(readings) as readonly Reading[];
const reads = Object.values(readings);

/** What signs read, in the order of {@link readingNames}. */
export function readingsOf(signs: Signs): Float64Array {
  return Float64Array.from(reads, (read) => read(signs));
}

/** The log odds that trees add up to. */
export function treeOdds({ bias, trees }: Trees, read: Float64Array): number {
  let odds = bias;
  for (const { asks, limits, leaves } of trees) {
    let at = 0;
    while (at < asks.length) {
      at = 2 * at + ((read[asks[at] ?? 0] ?? 0) < (limits[at] ?? 0) ? 1 : 2);
    }
    odds += leaves[at - asks.length] ?? 0;
  }
  return odds;
}

/**
 * The log odds that a prediction's first account is right: small boosted trees over its signs, fitted on made-up
 * businesses (`npm run bench -- fitSureness`).
 */
export function oddsOf(signs: Signs, trees: Trees = TREES): number {
  return treeOdds(trees, readingsOf(signs));
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
