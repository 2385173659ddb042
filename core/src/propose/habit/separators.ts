import { putInto } from '../../groupBy.ts';
import type { BankAccountId } from '../../ids.ts';
import { beyondChance, withoutChance } from './chance.ts';
import type { HabitLine } from './features.ts';
import type { Example } from './memory.ts';

/** What a line shows that may tell accounts apart. */
export interface Aspects extends Pick<HabitLine, 'amount' | 'bankAccountId'> {
  readonly words: readonly string[];
  readonly numbers: readonly string[];
  /** The day of the month. */
  readonly monthDay: number;
  /** From 0, Monday, to 6, Sunday. */
  readonly weekday: number;
}

/** What can tell accounts apart. */
export const separatorKinds = [
  'word',
  'number',
  'amount',
  'direction',
  'bankAccount',
  'day',
  'weekday',
  'cents',
] as const;

/** A difference between lines that may tell apart the accounts of one payee. */
export type Difference =
  | { readonly kind: 'word'; readonly word: string }
  /** A terminal, a contract, a customer: a number that comes again on other days. */
  | { readonly kind: 'number'; readonly number: string }
  | { readonly kind: 'direction' }
  | { readonly kind: 'bankAccount'; readonly bankAccountId: BankAccountId }
  | { readonly kind: 'amount'; readonly limit: number }
  /** Up to this day of the month, and after it. */
  | { readonly kind: 'day'; readonly limit: number }
  /** From Monday up to this day of the week, and after it; or one day by itself. */
  | { readonly kind: 'weekday'; readonly from: number; readonly to: number }
  /** Whether the amount has no cents, or whole tens of cents. */
  | { readonly kind: 'cents'; readonly unit: 10 | 100 };

/** What tells apart the accounts of one payee. */
export type Separator = Difference & {
  /**
   * How much of the uncertainty about the account it takes away, from 0 to 1, or how pure one of its sides is; less
   * where chance may have made it.
   */
  readonly gain: number;
  /** How far it is beyond what chance makes among all that were tried, by {@link beyondChance}. */
  readonly beyond: number;
};

/** So many separators are looked at. */
const MOST = 16;
/** Fewer decisions prove nothing, and older ones than the newest few say nothing new. */
const LEAST = 4;
export const NEWEST_TRIED = 300;
/**
 * A separator has to take away so much uncertainty, in nats over all decisions: chance alone takes away the more, the
 * more can be looked at. So much of it is not counted.
 */
const LEAST_NATS = 1;
const NATS_BY_COUNT = 0.35;
const NATS_OF_CHANCE = 0.5;
/** None is ever taken to be perfect; less is not worth looking at. */
const MOST_GAIN = 0.97;
const LEAST_GAIN = 0.2;
const LEAST_OF_DAY = 8;
/** A side with fewer decisions tells nothing. */
const LEAST_ON_A_SIDE = 2;
/** The days of the week that are tried: each by itself, and from Monday up to each. */
const PARTS_OF_WEEK: readonly (readonly [from: number, to: number])[] = [
  ...[0, 1, 2, 3, 4, 5, 6].map((day) => [day, day] as const),
  ...[1, 2, 3, 4, 5].map((day) => [0, day] as const),
];
/** How much the share of an account inside is drawn towards what it is everywhere, in decisions. */
const PRIOR = 0.5;

/** On which side of a difference something lies. */
export function sideOf(separator: Difference, aspects: Aspects): boolean {
  switch (separator.kind) {
    case 'word':
      return aspects.words.includes(separator.word);
    case 'number':
      return aspects.numbers.includes(separator.number);
    case 'direction':
      return aspects.amount < 0;
    case 'bankAccount':
      return aspects.bankAccountId === separator.bankAccountId;
    case 'amount':
      return Math.abs(aspects.amount) <= separator.limit;
    case 'day':
      return aspects.monthDay <= separator.limit;
    case 'weekday':
      return aspects.weekday >= separator.from && aspects.weekday <= separator.to;
    case 'cents':
      return aspects.amount % separator.unit === 0;
  }
}

/**
 * What tells the accounts of one payee's decisions apart, the most telling first. Each thing that lines show is tried,
 * and kept if chance would hardly take away as much uncertainty; it counts by the share that it takes away
 * (information gain over entropy), or by how pure its inside is where that is more, as the one of many terminals.
 */
export function separatorsOf(all: readonly Example[]): readonly Separator[] {
  const examples = all.slice(-NEWEST_TRIED);
  const accounts = [...new Set(examples.map(({ accountId }) => accountId))];
  if (examples.length < LEAST || accounts.length < 2) return [];
  const places = examples.map(({ accountId }) => accounts.indexOf(accountId));
  const total = new Float64Array(accounts.length);
  for (const place of places) total[place] = (total[place] ?? 0) + 1;
  const whole = uncertaintyOf(total, examples.length);
  const least = LEAST_NATS + NATS_BY_COUNT * Math.log(examples.length);
  const found: Separator[] = [];
  const inner = new Float64Array(accounts.length);
  const outer = new Float64Array(accounts.length);
  /**
   * Keeps a difference if what lies inside of it, counted by account in `inner`, is hardly so by chance.
   * @param tried how many of its kind are
   */
  const weigh = (difference: Difference, tried: number): void => {
    let count = 0;
    for (let at = 0; at < total.length; at += 1) {
      count += inner[at] ?? 0;
      outer[at] = (total[at] ?? 0) - (inner[at] ?? 0);
    }
    const rest = examples.length - count;
    if (count < LEAST_ON_A_SIDE || rest < LEAST_ON_A_SIDE) return;
    const nats = whole - uncertaintyOf(inner, count) - uncertaintyOf(outer, rest);
    if (nats < least) return;
    const { kind } = difference;
    // Of many limits one is pure by chance.
    const pure =
      kind === 'day' || kind === 'weekday' || kind === 'cents'
        ? 0
        : Math.max(
            purityOf(inner, count, total, examples.length),
            purityOf(outer, rest, total, examples.length),
          );
    const strength = Math.max((nats - NATS_OF_CHANCE) / whole, pure);
    const separator = separatorOf(difference, strength, beyondChance(nats, accounts.length, tried));
    if (separator) found.push(separator);
  };
  const enter = (at: number): void => {
    const place = places[at] ?? 0;
    inner[place] = (inner[place] ?? 0) + 1;
  };
  const weighWhere = (
    difference: Difference,
    isInside: (example: Example) => boolean,
    tried: number,
  ): void => {
    inner.fill(0);
    for (let at = 0; at < examples.length; at += 1) {
      const example = examples[at];
      if (example && isInside(example)) enter(at);
    }
    weigh(difference, tried);
  };
  const weighEach = (
    things: readonly (readonly [string, readonly number[]])[],
    differenceOf: (thing: string) => Difference,
  ): void => {
    const several = things.filter(
      ([, inside]) =>
        inside.length >= LEAST_ON_A_SIDE && examples.length - inside.length >= LEAST_ON_A_SIDE,
    );
    for (const [thing, inside] of several) {
      inner.fill(0);
      for (const at of inside) enter(at);
      weigh(differenceOf(thing), several.length);
    }
  };
  weighWhere({ kind: 'direction' }, ({ amount }) => amount < 0, 1);
  const banks = new Set(examples.map(({ bankAccountId: each }) => each));
  for (const bankAccountId of banks) {
    const isThere = (example: Example) => example.bankAccountId === bankAccountId;
    weighWhere({ kind: 'bankAccount', bankAccountId }, isThere, banks.size);
  }
  const byWord = placesOf(examples, ({ words }) => words);
  weighEach([...byWord], (word) => ({ kind: 'word', word }));
  // What comes twice on one day is no number that stays.
  const onSeveralDays = [...placesOf(examples, ({ numbers }) => numbers)].filter(([, inside]) =>
    inside.some((at) => examples[at]?.day !== examples[inside[0] ?? 0]?.day),
  );
  weighEach(onSeveralDays, (number) => ({ kind: 'number', number }));
  found.push(...amountLimits(examples, places, accounts.length));
  if (examples.length >= LEAST_OF_DAY) {
    const byDay = countsBy(examples, places, accounts.length, ({ monthDay }) => monthDay);
    const limits = new Set(examples.map(({ monthDay }) => monthDay));
    for (const limit of limits) {
      byDay.within(0, limit, inner);
      weigh({ kind: 'day', limit }, limits.size);
    }
    const byWeekday = countsBy(examples, places, accounts.length, ({ weekday }) => weekday);
    for (const [from, to] of PARTS_OF_WEEK) {
      byWeekday.within(from, to, inner);
      weigh({ kind: 'weekday', from, to }, PARTS_OF_WEEK.length);
    }
    for (const unit of [100, 10] as const) {
      weighWhere({ kind: 'cents', unit }, ({ amount }) => amount % unit === 0, 2);
    }
  }
  found.sort((a, b) => b.gain - a.gain);
  // Of limits that lie beside each other one is enough.
  const more = (['day', 'weekday', 'cents'] as const).flatMap((kind) =>
    found.filter((separator) => separator.kind === kind).slice(1),
  );
  return found.filter((separator) => !more.includes(separator)).slice(0, MOST);
}

/** A difference as a separator: less what chance may have made of it; undefined where too little is left. */
function separatorOf(
  difference: Difference,
  strength: number,
  beyond: number,
): Separator | undefined {
  const gain = withoutChance(Math.min(MOST_GAIN, strength), beyond);
  return gain > LEAST_GAIN ? { ...difference, gain, beyond } : undefined;
}

/** How many examples went to each account, by a small number that each has: added up between two of these. */
function countsBy(
  examples: readonly Example[],
  places: readonly number[],
  accounts: number,
  numberOf: (example: Example) => number,
): { readonly within: (from: number, to: number, into: Float64Array) => void } {
  const counts: number[] = [];
  for (const [at, example] of examples.entries()) {
    const cell = numberOf(example) * accounts + (places[at] ?? 0);
    counts[cell] = (counts[cell] ?? 0) + 1;
  }
  return {
    within(from, to, into) {
      into.fill(0);
      for (let number = from; number <= to; number += 1) {
        for (let account = 0; account < accounts; account += 1) {
          into[account] = (into[account] ?? 0) + (counts[number * accounts + account] ?? 0);
        }
      }
    },
  };
}

/** So often what lies between two limits is parted again: three limits make four bands. */
const DEEPEST = 2;

/** Limits that part amounts by account: the best one, and the best in what lies on each side of it. */
function amountLimits(
  examples: readonly Example[],
  places: readonly number[],
  accounts: number,
): readonly Separator[] {
  const bySize = examples
    .map(({ amount }, at) => ({ size: Math.abs(amount), place: places[at] ?? 0 }))
    .sort((a, b) => a.size - b.size);
  const found: Separator[] = [];
  const part = (from: number, to: number, depth: number): void => {
    const count = to - from;
    const below = new Float64Array(accounts);
    const above = new Float64Array(accounts);
    for (let at = from; at < to; at += 1) {
      const { place = 0 } = bySize[at] ?? {};
      above[place] = (above[place] ?? 0) + 1;
    }
    const whole = uncertaintyOf(above, count);
    const best = { nats: 0, at: 0 };
    for (let at = from; at < to - 2; at += 1) {
      const { size = 0, place = 0 } = bySize[at] ?? {};
      below[place] = (below[place] ?? 0) + 1;
      above[place] = (above[place] ?? 0) - 1;
      const inside = at + 1 - from;
      if (inside < LEAST_ON_A_SIDE || bySize[at + 1]?.size === size) continue;
      const rest = count - inside;
      const nats = whole - uncertaintyOf(below, inside) - uncertaintyOf(above, rest);
      if (nats > best.nats) Object.assign(best, { nats, at: at + 1 });
    }
    if (best.nats < LEAST_NATS + NATS_BY_COUNT * Math.log(count)) return;
    const [low, high] = [bySize[best.at - 1]?.size ?? 0, bySize[best.at]?.size ?? 0];
    const limit = Math.round(Math.sqrt(low * high));
    const strength = (best.nats - NATS_OF_CHANCE) / whole;
    const beyond = beyondChance(best.nats, accounts, count);
    const separator = separatorOf({ kind: 'amount', limit }, strength, beyond);
    if (!separator) return;
    found.push(separator);
    if (depth === DEEPEST) return;
    part(from, best.at, depth + 1);
    part(best.at, to, depth + 1);
  };
  part(0, bySize.length, 1);
  return found;
}

/** The places of the examples that have each of some things. */
export function placesOf(
  examples: readonly Example[],
  thingsOf: (example: Example) => readonly string[],
): ReadonlyMap<string, readonly number[]> {
  const places = new Map<string, number[]>();
  for (const [at, example] of examples.entries()) {
    // Each is there but once.
    for (const thing of thingsOf(example)) putInto(places, thing, at);
  }
  return places;
}

/** How much surer than everywhere the likeliest account is on one side, from 0 to 1. */
function purityOf(side: Float64Array, count: number, total: Float64Array, all: number): number {
  let most = 0;
  let at = 0;
  for (let place = 0; place < side.length; place += 1) {
    if ((side[place] ?? 0) <= most) continue;
    most = side[place] ?? 0;
    at = place;
  }
  const usual = (total[at] ?? 0) / all;
  const share = (most + PRIOR * usual) / (count + PRIOR);
  return usual >= 1 ? 0 : (share - usual) / (1 - usual);
}

/** A count times its logarithm, for as many as are looked at. */
const COUNT_LOG = Float64Array.from({ length: NEWEST_TRIED + 1 }, (_, count) =>
  count === 0 ? 0 : count * Math.log(count),
);

/** The uncertainty about the account of some decisions together, in nats (their number times the entropy). */
function uncertaintyOf(counts: Float64Array, total: number): number {
  let uncertainty = COUNT_LOG[total] ?? 0;
  for (let at = 0; at < counts.length; at += 1) uncertainty -= COUNT_LOG[counts[at] ?? 0] ?? 0;
  return uncertainty;
}
