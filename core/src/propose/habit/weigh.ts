import { aspectsOf, daysOf, type HabitLine, type WordingFeatures } from './features.ts';
import { type Heard, sidesOf } from './heard.ts';
import type { Aspects } from './separators.ts';

/** A line that is asked about, with what comparing needs of it. */
export interface Asked {
  readonly line: HabitLine;
  readonly features: WordingFeatures;
  readonly aspects: Aspects;
  /** The date as days since 1970. */
  readonly day: number;
  /** The natural logarithm of the amount, without its sign. */
  readonly size: number;
}

/** Decided lines in the order in which they were decided, with how much each says about another line. */
export interface Witnesses {
  readonly heard: Heard;
  readonly weights: Float64Array;
  readonly likenesses: Float64Array;
  /** How much each would say if nothing told accounts apart. */
  readonly plainWeights: Float64Array;
  /** For each, how telling the strongest separator is on whose other side it lies; 0 where it lies on none. */
  readonly apart: Float64Array;
  /** For each, whether it shares a number with the line that is hardly shared by chance. */
  readonly isNumberShared: Uint8Array;
  /** The first such number; null where there is none. */
  readonly sharedNumber: string | null;
  /** On which side of each of the separators the line lies: a bit each. */
  readonly sides: number;
}

/** After so many days a decision counts half. */
const HALF_LIFE = 45;
/** What is left of a decision after so many days. */
const DECAY = Float64Array.from({ length: 4_000 }, (_, age) => 0.5 ** (age / HALF_LIFE));
/** What is left of a decision's weight where the amount is quite another, and how far another is. */
const AMOUNT_FAR = 0.3;
const AMOUNT_WIDTH = 0.3;
/** What is left of it where the amount is not the very same, and where it lacks a number that others share. */
const OTHER_AMOUNT = 0.4;
const OTHER_NUMBER = 0.03;
/** What is left of it on another bank account, and in the other direction. */
const OTHER_BANK = 0.2;
const OTHER_SIDE = 0.2;
/** What is left of one odd decision where at least two are about as alike and went elsewhere. */
const ODD = 0.2;
const ABOUT_AS_ALIKE = 0.35;
/** What is left of what was decided before a change that lasts. */
const BEFORE_CHANGE = 0.12;
/** A number that was seen so many days earlier is no date and no running number. */
const DAYS_APART = 5;

/** A line with what comparing needs of it. */
export function askOf(line: HabitLine, features: WordingFeatures): Asked {
  return {
    line,
    features,
    aspects: aspectsOf(line, features),
    day: daysOf(line.date),
    size: Math.log(Math.abs(line.amount) + 1),
  };
}

/**
 * How much decided lines say about another one: the less, the longer ago they were, the farther their amounts, and
 * what lies on the other side of something that tells accounts apart says hardly anything.
 *
 * @param likenesses how alike their wordings are
 * @param pulls how much they count for that
 * @param numbers those of the line's numbers that chance hardly brings again
 */
export function weigh(
  asked: Asked,
  heard: Heard,
  likenesses: Float64Array,
  pulls: Float64Array,
  numbers: readonly string[],
): Witnesses {
  const { line, day, size } = asked;
  const { separators, sides, days, sizes, amounts, weights: own, banks, otherSide } = heard;
  const count = own.length;
  const ours = sidesOf(separators, asked.aspects);
  const telling = tellingSides(heard, ours);
  const isNumberShared = new Uint8Array(count);
  const sharedNumber = shareNumbers(asked, heard, numbers, isNumberShared);
  const bank = heard.bankIds.indexOf(line.bankAccountId);
  const isOut = line.amount < 0;
  const weights = new Float64Array(count);
  const plainWeights = new Float64Array(count);
  const apartBy = new Float64Array(count);
  for (let at = 0; at < count; at += 1) {
    const amount = amounts[at] ?? 0;
    const apart = (size - (sizes[at] ?? 0)) / AMOUNT_WIDTH;
    const age = Math.max(0, day - (days[at] ?? 0));
    // Farther than that, nothing is left of the kernel.
    const near = apart > 6 || apart < -6 ? 0 : Math.exp(-apart * apart);
    let weight =
      (own[at] ?? 0) *
      (pulls[at] ?? 0) *
      (DECAY[age < DECAY.length ? age : DECAY.length - 1] ?? 0) *
      (AMOUNT_FAR + (1 - AMOUNT_FAR) * near);
    if (banks[at] !== bank) weight *= OTHER_BANK;
    if (isOut !== amount < 0) weight *= OTHER_SIDE;
    if (line.amount !== amount) weight *= OTHER_AMOUNT;
    plainWeights[at] = weight;
    if (sharedNumber !== null && isNumberShared[at] === 0) weight *= OTHER_NUMBER;
    for (let other = ((sides[at] ?? 0) ^ ours) & telling; other !== 0; other &= other - 1) {
      const place = 31 - Math.clz32(other & -other);
      weight *= otherSide[place] ?? 1;
      const gain = separators[place]?.gain ?? 0;
      if (gain > (apartBy[at] ?? 0)) apartBy[at] = gain;
    }
    weights[at] = weight;
  }
  lessenOdd(heard, weights);
  for (let at = 0; at < heard.changedAt; at += 1) weights[at] = (weights[at] ?? 0) * BEFORE_CHANGE;
  return {
    heard,
    weights,
    likenesses,
    plainWeights,
    apart: apartBy,
    isNumberShared,
    sharedNumber,
    sides: ours,
  };
}

/** The separators that say something of a line: numbers don't where it has none of them, as it may have a new one. */
function tellingSides({ separators, numberSides }: Heard, ours: number): number {
  const all = (1 << separators.length) - 1;
  return (ours & numberSides) === 0 ? all & ~numberSides : all;
}

/** Marks the decided lines that share a number with a line. @returns the first that is shared */
function shareNumbers(
  { day }: Asked,
  { days, ofNumber }: Heard,
  numbers: readonly string[],
  isShared: Uint8Array,
): string | null {
  let first: string | null = null;
  for (const number of numbers) {
    for (const at of ofNumber(number)) {
      if (day - (days[at] ?? 0) < DAYS_APART) continue;
      isShared[at] = 1;
      first ??= number;
    }
  }
  return first;
}

/** One odd decision does not outvote several that are about as alike, until a second agrees. */
function lessenOdd({ odd }: Heard, weights: Float64Array): void {
  const lessened: number[] = [];
  for (const at of odd) {
    const limit = (weights[at] ?? 0) * ABOUT_AS_ALIKE;
    let against = 0;
    for (let other = 0; other < weights.length; other += 1) {
      if (other !== at && (weights[other] ?? 0) > limit) against += 1;
    }
    if (against >= 2) lessened.push(at);
  }
  for (const at of lessened) weights[at] = (weights[at] ?? 0) * ODD;
}
