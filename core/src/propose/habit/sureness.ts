import type { Signs } from './signs.ts';
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
  numberShared: ({ numberShared }) => numberShared,
  evidence: ({ evidence }) => Math.log(evidence + 0.001),
  sameAmount: ({ sameAmount }) => Math.min(sameAmount, 6),
  otherSameAmount: ({ otherSameAmount }) => Math.min(otherSameAmount, 6),
  otherSide: ({ firstLikeness, elsewhereLikeness }) => firstLikeness - elsewhereLikeness,
  unknown: ({ unknownWords }) => unknownWords,
  alongside: ({ alongside }) => alongside,
  alongsideAgreed: ({ alongside, alongsideFirst }) => (alongsideFirst + 0.5) / (alongside + 1),
  switches: ({ switches, alongside }) => switches / Math.max(1, alongside),
  againstBeyond: ({ againstBeyond }) => againstBeyond,
  othersBeyond: ({ othersBeyond }) => othersBeyond,
  meanBeyond: ({ meanBeyond }) => meanBeyond,
} as const satisfies Readonly<Record<string, (signs: Signs) => number>>;

export type Reading = keyof typeof readings;
/** All readings, in their order. */
export const readingNames = Object.keys(readings) as readonly Reading[];
const reads = Object.values(readings);

/** What signs read, in the order of {@link readingNames}. */
export function readingsOf(signs: Signs): Float64Array {
  const read = new Float64Array(reads.length);
  for (let at = 0; at < reads.length; at += 1) read[at] = reads[at]?.(signs) ?? 0;
  return read;
}

/** Trees one behind the other in tables, as most of their time would go into finding them. */
interface Packed {
  /** For each reading, the limits that nodes have for it, each once and in their order. */
  readonly limits: readonly Float64Array[];
  /** Each inner node's reading, and in the lower 16 bits the place of its limit among these. */
  readonly nodes: Int32Array;
  readonly leaves: Float64Array;
  /** Inner nodes of each tree. */
  readonly inner: number;
  /** Room for what is read, as how many of its limits each reading reaches. */
  readonly reached: Int32Array;
}

const packed = new WeakMap<Trees, Packed>();

function packOf(trees: Trees): Packed {
  const known = packed.get(trees);
  if (known) return known;
  const ofReading = readingNames.map(() => new Set<number>());
  for (const { asks, limits } of trees.trees) {
    for (const [at, ask] of asks.entries()) ofReading[ask]?.add(limits[at] ?? 0);
  }
  const limitsOf = ofReading.map((limits) => Float64Array.from(limits).sort());
  const made: Packed = {
    limits: limitsOf,
    nodes: Int32Array.from(
      trees.trees.flatMap(({ asks, limits }) =>
        asks.map((ask, at) => (ask << 16) | (limitsOf[ask]?.indexOf(limits[at] ?? 0) ?? 0)),
      ),
    ),
    leaves: Float64Array.from(trees.trees.flatMap(({ leaves }) => leaves)),
    inner: trees.trees[0]?.asks.length ?? 0,
    reached: new Int32Array(limitsOf.length),
  };
  packed.set(trees, made);
  return made;
}

/** The log odds that trees, all of one depth, add up to. */
export function treeOdds(trees: Trees, read: Float64Array): number {
  const { limits, nodes, leaves, inner, reached } = packOf(trees);
  for (let at = 0; at < reached.length; at += 1) {
    reached[at] = countReached(limits[at] ?? NO_LIMITS, read[at] ?? 0);
  }
  let odds = trees.bias;
  for (let tree = 0; tree < trees.trees.length; tree += 1) {
    const from = tree * inner;
    let at = 0;
    while (at < inner) {
      const node = nodes[from + at] ?? 0;
      // Without a branch, which no processor could guess: the sign is 1 where this limit is reached.
      at = 2 * at + 1 + (((node & 0xffff) - (reached[node >> 16] ?? 0)) >>> 31);
    }
    odds += leaves[from + tree + at - inner] ?? 0;
  }
  return odds;
}

const NO_LIMITS = new Float64Array();

/** How many of some limits in their order are not above a value. */
function countReached(limits: Float64Array, value: number): number {
  let from = 0;
  let to = limits.length;
  while (from < to) {
    const middle = (from + to) >> 1;
    if (value < (limits[middle] ?? 0)) to = middle;
    else from = middle + 1;
  }
  return from;
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
const BELIEF = 60;
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
