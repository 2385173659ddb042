import { aspectsOf, daysOf, type HabitLine, type WordingFeatures } from './features.ts';
import {
  AMOUNT,
  BANK,
  COLUMNS,
  DAY,
  type Heard,
  MOST_HEARD,
  SIDES,
  SIZE,
  sidesOf,
  WEIGHT,
} from './heard.ts';
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

/** How much each of the decided lines of one candidate says about a line, in the order in which they were decided. */
export interface Weights {
  readonly weights: Float64Array;
  /** How much each would say if nothing told accounts apart. */
  readonly plainWeights: Float64Array;
  /** For each, how telling the strongest separator is on whose other side it lies; 0 where it lies on none. */
  readonly apart: Float64Array;
  /** For each, how far the one of these is beyond chance that is farthest. */
  readonly beyond: Float64Array;
  /** For each, whether it shares a number with the line that is hardly shared by chance. */
  readonly isNumberShared: Uint8Array;
}

/** What a line has in common with the decided lines of one candidate. */
interface Compared {
  /** How alike each one's wording is. */
  readonly likenesses: readonly number[];
  /** Those of the line's numbers that chance hardly brings again. */
  readonly numbers: readonly string[];
}

/** The decided lines of one candidate, with how much each says about a line. */
export interface Witnesses extends Weights {
  readonly heard: Heard;
  readonly likenesses: readonly number[];
  /** The first number that is shared and hardly shared by chance; null where there is none. */
  readonly sharedNumber: string | null;
  /** On which side of each of the separators the line lies: a bit each. */
  readonly sides: number;
}

/** Room for as many weights as there can be; making it anew for each line would take longer than weighing. */
export function roomForWeights(): Weights {
  return {
    weights: new Float64Array(MOST_HEARD),
    plainWeights: new Float64Array(MOST_HEARD),
    apart: new Float64Array(MOST_HEARD),
    beyond: new Float64Array(MOST_HEARD),
    isNumberShared: new Uint8Array(MOST_HEARD),
  };
}

/** After so many days a decision counts half. */
const HALF_LIFE = 45;
/** {@link leftAfter} of each number of days; after more of them, hardly anything is left. */
const DECAY = Float64Array.from({ length: 4_000 }, (_, age) => 0.5 ** (age / HALF_LIFE));
/** What is left of a decision's weight where the amount is quite another, and how far another is. */
const AMOUNT_FAR = 0.3;
const AMOUNT_WIDTH = 0.3;
/** So many widths away, a ten-millionth is left. */
const FARTHEST = 4;
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
 * @param room where the weights are put
 */
export function weigh(
  asked: Asked,
  heard: Heard,
  { likenesses, numbers }: Compared,
  room: Weights,
): Witnesses {
  const { line, day, size } = asked;
  const { separators, otherSide, table } = heard;
  const { weights, plainWeights, apart: apartBy, beyond: beyondBy, isNumberShared } = room;
  const count = heard.examples.length;
  const shown = heard.cutWords?.madeWhole(asked.aspects) ?? asked.aspects;
  const ours = sidesOf(separators, shown);
  const telling = tellingSides(heard, ours) & ~openSides(heard, shown);
  const sharedNumber = shareNumbers(asked, heard, numbers, isNumberShared);
  const bank = heard.bankIds.indexOf(line.bankAccountId);
  const isOut = line.amount < 0;
  for (let at = 0; at < count; at += 1) {
    const row = at * COLUMNS;
    const amount = table[row + AMOUNT] ?? 0;
    const away = (size - (table[row + SIZE] ?? 0)) / AMOUNT_WIDTH;
    const age = Math.max(0, day - (table[row + DAY] ?? 0));
    const near = away > FARTHEST || away < -FARTHEST ? 0 : Math.exp(-away * away);
    const alike = likenesses[at] ?? 0;
    const square = alike * alike;
    let weight =
      (table[row + WEIGHT] ?? 0) *
      (square * square) *
      leftAfter(age) *
      (AMOUNT_FAR + (1 - AMOUNT_FAR) * near);
    if (table[row + BANK] !== bank) weight *= OTHER_BANK;
    if (isOut !== amount < 0) weight *= OTHER_SIDE;
    if (line.amount !== amount) weight *= OTHER_AMOUNT;
    plainWeights[at] = weight;
    if (sharedNumber !== null && isNumberShared[at] === 0) weight *= OTHER_NUMBER;
    let apart = 0;
    let beyond = 0;
    for (
      let other = ((table[row + SIDES] ?? 0) ^ ours) & telling;
      other !== 0;
      other &= other - 1
    ) {
      const place = 31 - Math.clz32(other & -other);
      weight *= otherSide[place] ?? 1;
      apart = Math.max(apart, separators[place]?.gain ?? 0);
      beyond = Math.max(beyond, separators[place]?.beyond ?? 0);
    }
    apartBy[at] = apart;
    beyondBy[at] = beyond;
    weights[at] = weight;
  }
  lessenOdd(heard, weights, day);
  for (let at = 0; at < heard.changedAt; at += 1) weights[at] = (weights[at] ?? 0) * BEFORE_CHANGE;
  return {
    heard,
    likenesses,
    weights,
    plainWeights,
    apart: apartBy,
    beyond: beyondBy,
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

/** The separators that say nothing of a line, as its last word is cut off and may be theirs or another's. */
function openSides({ cutWords, separators }: Heard, shown: Aspects): number {
  const maybe = cutWords?.maybe(shown) ?? [];
  let open = 0;
  for (let place = 0; maybe.length > 0 && place < separators.length; place += 1) {
    const separator = separators[place];
    if (separator?.kind === 'word' && maybe.includes(separator.word)) open |= 1 << place;
  }
  return open;
}

/** Marks the decided lines that share a number with a line. @returns the first that is shared */
function shareNumbers(
  { day }: Asked,
  { table, ofNumber }: Heard,
  numbers: readonly string[],
  isShared: Uint8Array,
): string | null {
  let first: string | null = null;
  isShared.fill(0);
  for (const number of numbers) {
    for (const at of ofNumber(number)) {
      if (day - (table[at * COLUMNS + DAY] ?? 0) < DAYS_APART) continue;
      isShared[at] = 1;
      first ??= number;
    }
  }
  return first;
}

/** What is left of a decision after so many days. */
function leftAfter(days: number): number {
  return DECAY[days < DECAY.length ? days : DECAY.length - 1] ?? 0;
}

/**
 * One odd decision does not outvote several that are about as alike, until a second agrees. How long ago those were
 * doesn't count: an odd one that is the newest is a mistake more often than a change.
 */
function lessenOdd({ odd, examples, table }: Heard, weights: Float64Array, day: number): void {
  if (odd.length === 0) return;
  const weightWhenNew = (at: number) =>
    (weights[at] ?? 0) / leftAfter(Math.max(0, day - (table[at * COLUMNS + DAY] ?? 0)));
  const lessened: number[] = [];
  for (const at of odd) {
    const limit = weightWhenNew(at) * ABOUT_AS_ALIKE;
    let against = 0;
    for (let other = 0; other < examples.length; other += 1) {
      if (other !== at && weightWhenNew(other) > limit) against += 1;
    }
    if (against >= 2) lessened.push(at);
  }
  for (const at of lessened) weights[at] = (weights[at] ?? 0) * ODD;
}
