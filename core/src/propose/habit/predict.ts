import { daysOf, type HabitLine, type WordingFeatures } from './features.ts';
import type { Candidate, Memory, Witnesses } from './memory.ts';
import type { Separator } from './separators.ts';

/** What past decisions say about a line, before anything is made of it. */
export interface Prediction {
  /** The likeliest first; shares add up to 1. */
  readonly accounts: readonly { readonly accountId: string; readonly share: number }[];
  readonly payeeId: string | null;
  readonly taxCodeId: string | null;
  /** Whether look-alikes on the first account had this tax code, nearly all of them. */
  readonly isTaxClear: boolean;
  readonly signs: Signs;
  /** How many look-alikes went to each account, all of them. */
  readonly counts: ReadonlyMap<string, number>;
  /** What tells the accounts of these look-alikes apart, and on which side of each the line lies. */
  readonly separators: readonly Separator[];
  readonly sides: readonly boolean[];
  /** A number of the line that was never seen, where numbers tell the accounts apart and it has none of those. */
  readonly newNumber: string | null;
  /** The decided lines that it rests on, in the order in which they were decided. */
  readonly witnesses: Witnesses;
}

/** What the sureness of a prediction depends on. */
export interface Signs {
  /** The share of the first account, and of the second. */
  readonly first: number;
  readonly second: number;
  /** How alike the most alike wording is, from 0 to 1. */
  readonly likeness: number;
  /** How much of what is telling is shared with it, in words that one payee has. */
  readonly shared: number;
  /** How many of the look-alikes have a wording as alike as that. */
  readonly same: number;
  /** How likely the payee is the right one. */
  readonly payeeShare: number;
  /** How many look-alikes there are, and how many of them went to the first account. */
  readonly times: number;
  readonly timesFirst: number;
  /** How many of the five newest look-alikes went to the first account, of how many. */
  readonly newest: number;
  /** How far the amount is from the nearest that went to the first account, as a ratio (0 is equal). */
  readonly amountApart: number;
  /** Whether a look-alike that went to the first account was in this direction, on this bank account. */
  readonly isSameSide: boolean;
  readonly isSameBank: boolean;
  /** How much what tells the accounts apart takes away of the uncertainty; 1 where there is but one account. */
  readonly separated: number;
  /** Days since the newest look-alike that went to the first account. */
  readonly daysSince: number;
  /** How alike the best other payee's wording is. */
  readonly otherLikeness: number;
  /** The share of the first account if nothing told accounts apart. */
  readonly plain: number;
  /** How telling the strongest separator is that no look-alike of the first account agrees with. */
  readonly against: number;
  /** How telling the weakest is on which the nearest other account's look-alikes lie apart; 1 where there is none. */
  readonly others: number;
  /** How many separators there are, and how many accounts the look-alikes went to. */
  readonly separators: number;
  readonly accounts: number;
  /** In how many months look-alikes went to the first account. */
  readonly months: number;
  /** How many of the newest in a row went to the first account. */
  readonly run: number;
  /** How far the amount is from the nearest on another account, as a ratio (9 where there is none). */
  readonly otherApart: number;
  /** How many of the line's numbers were seen before, and how many long ones were not. */
  readonly numbersSeen: number;
  readonly numbersNew: number;
  /** Whether numbers tell the accounts apart, and the line has none of them. */
  readonly isNumberMissing: boolean;
}

/** What past decisions on look-alikes say about a line. @returns null where there are none alike */
export function predict(
  memory: Memory,
  line: HabitLine,
  features: WordingFeatures,
): Prediction | null {
  const heard = hear(memory, line, features);
  const shares = new Map<string, number>();
  for (const { share, total, sums } of heard) {
    for (const [accountId, sum] of sums) {
      shares.set(accountId, (shares.get(accountId) ?? 0) + (share * sum) / total);
    }
  }
  const accounts = [...shares]
    .map(([accountId, share]) => ({ accountId, share }))
    .sort((a, b) => b.share - a.share || (a.accountId < b.accountId ? -1 : 1));
  const [first] = accounts;
  const best = first && mostFor(heard, first.accountId);
  if (!best) return null;
  const separators = memory.separators(best.candidate);
  const others = heard.filter((each) => each !== best);
  const numbers = numberSigns(memory, features, separators);
  return {
    accounts,
    payeeId: best.witnesses.examples.at(-1)?.payeeId ?? null,
    ...taxOf(best.witnesses, first.accountId),
    signs: {
      ...signsOf(line, best, first.accountId),
      ...numbers.signs,
      separators: separators.length,
      accounts: best.candidate.cluster.counts.size,
      first: first.share,
      second: accounts[1]?.share ?? 0,
      separated: best.sums.size < 2 ? 1 : (separators[0]?.gain ?? 0),
      otherLikeness: Math.max(0, ...others.map(({ candidate }) => candidate.likeness)),
    },
    counts: best.candidate.cluster.counts,
    separators,
    sides: separators.map((_, place) => ((best.witnesses.sides >> place) & 1) === 1),
    newNumber: numbers.newNumber,
    witnesses: best.witnesses,
  };
}

/** A candidate with what its decided lines say of a line. */
interface Heard {
  readonly candidate: Candidate;
  readonly witnesses: Witnesses;
  /** How much they say for each account, and in all. */
  readonly sums: ReadonlyMap<string, number>;
  readonly total: number;
  /** How likely it is this candidate, by wording, amount and the rest; all add up to 1. */
  readonly share: number;
}

function hear(memory: Memory, line: HabitLine, features: WordingFeatures): readonly Heard[] {
  let whole = 0;
  const heard = memory.candidates(features).map((candidate): Heard => {
    const witnesses = memory.witnesses(line, features, candidate);
    const sums = sumsOf(witnesses);
    let total = 0;
    for (const sum of sums.values()) total += sum;
    const share = candidate.share * total;
    whole += share;
    return { candidate, witnesses, sums, total, share };
  });
  return heard.flatMap((each) => (each.total > 0 ? { ...each, share: each.share / whole } : []));
}

/** How much witnesses say for each account. Runs of one account are summed before they are looked up. */
function sumsOf({ examples, weights }: Witnesses): ReadonlyMap<string, number> {
  const sums = new Map<string, number>();
  let accountId: string | null = null;
  let sum = 0;
  for (let at = 0; at < examples.length; at += 1) {
    const own = examples[at]?.accountId ?? null;
    if (own !== accountId) {
      if (accountId !== null) sums.set(accountId, (sums.get(accountId) ?? 0) + sum);
      accountId = own;
      sum = 0;
    }
    sum += weights[at] ?? 0;
  }
  if (accountId !== null) sums.set(accountId, (sums.get(accountId) ?? 0) + sum);
  return sums;
}

/** The candidate that speaks most for an account. */
function mostFor(heard: readonly Heard[], accountId: string): Heard | undefined {
  let found: Heard | undefined;
  let most = 0;
  for (const each of heard) {
    const part = (each.share * (each.sums.get(accountId) ?? 0)) / each.total;
    if (part > most) {
      most = part;
      found = each;
    }
  }
  return found;
}

/** So many of the newest look-alikes are looked at for whether they were all alike. */
const NEWEST = 5;

function signsOf(
  line: HabitLine,
  { candidate, witnesses }: Heard,
  accountId: string,
): Omit<
  Signs,
  | 'first'
  | 'second'
  | 'separated'
  | 'otherLikeness'
  | 'separators'
  | 'accounts'
  | 'numbersSeen'
  | 'numbersNew'
  | 'isNumberMissing'
> {
  const size = Math.log(Math.abs(line.amount) + 1);
  const day = daysOf(line.date);
  const isOut = line.amount < 0;
  const { examples, likenesses, plainWeights, apart } = witnesses;
  const fromNewest = examples.length - NEWEST;
  const least = candidate.likeness - 0.01;
  let amountApart = 9;
  let daysSince = 9_999;
  let timesFirst = 0;
  let newest = 0;
  let same = 0;
  let isSameSide = false;
  let isSameBank = false;
  let against = 1;
  let others = 1;
  let otherApart = 9;
  let plain = 0;
  let plainAll = 0;
  let months = 0;
  let monthBefore = -1;
  for (let at = 0; at < examples.length; at += 1) {
    const example = examples[at];
    if (!example) continue;
    if ((likenesses[at] ?? 0) > least) same += 1;
    plainAll += plainWeights[at] ?? 0;
    if (example.accountId !== accountId) {
      others = Math.min(others, apart[at] ?? 0);
      otherApart = Math.min(otherApart, Math.abs(size - example.size));
      continue;
    }
    plain += plainWeights[at] ?? 0;
    against = Math.min(against, apart[at] ?? 0);
    const month = Math.floor(example.day / 30.4);
    if (month !== monthBefore) months += 1;
    monthBefore = month;
    timesFirst += 1;
    if (at >= fromNewest) newest += 1;
    amountApart = Math.min(amountApart, Math.abs(size - example.size));
    daysSince = Math.min(daysSince, Math.max(0, day - example.day));
    isSameSide ||= example.amount < 0 === isOut;
    isSameBank ||= example.bankAccountId === line.bankAccountId;
  }
  return {
    likeness: candidate.likeness,
    shared: candidate.shared,
    same,
    payeeShare: candidate.share,
    times: examples.length,
    timesFirst,
    newest: newest / Math.min(NEWEST, examples.length || 1),
    amountApart,
    isSameSide,
    isSameBank,
    daysSince,
    plain: plainAll === 0 ? 0 : plain / plainAll,
    against,
    others,
    months,
    run: examples.length - 1 - examples.findLastIndex((each) => each.accountId !== accountId),
    otherApart,
  };
}

/** A number of so many digits and letters is hardly met again by chance. */
const LONG_NUMBER = 5;

function numberSigns(
  memory: Memory,
  { numbers }: WordingFeatures,
  separators: readonly Separator[],
): {
  readonly signs: Pick<Signs, 'numbersSeen' | 'numbersNew' | 'isNumberMissing'>;
  readonly newNumber: string | null;
} {
  const seen = numbers.filter((number) => memory.timesOfNumber(number) > 1);
  const telling = separators.flatMap((each) => (each.kind === 'number' ? each.number : []));
  const fresh = numbers.filter(
    (number) => number.length >= LONG_NUMBER && memory.timesOfNumber(number) === 0,
  );
  const isNumberMissing = telling.length > 0 && !telling.some((number) => numbers.includes(number));
  return {
    signs: { numbersSeen: seen.length, numbersNew: fresh.length, isNumberMissing },
    newNumber: isNumberMissing ? (fresh[0] ?? null) : null,
  };
}

/** A tax code that has less than this of the weight is not clear. */
const CLEAR = 0.8;

/** The tax code that weighs most among lines on an account. */
function taxOf(
  { examples, weights: own }: Witnesses,
  accountId: string,
): Pick<Prediction, 'taxCodeId' | 'isTaxClear'> {
  const weights = new Map<string | null, number>();
  let total = 0;
  examples.forEach((example, at) => {
    if (example.accountId !== accountId) return;
    const weight = own[at] ?? 0;
    weights.set(example.taxCodeId, (weights.get(example.taxCodeId) ?? 0) + weight);
    total += weight;
  });
  let taxCodeId: string | null = null;
  let most = 0;
  for (const [id, weight] of weights) {
    if (weight > most) {
      most = weight;
      taxCodeId = id;
    }
  }
  return { taxCodeId, isTaxClear: most >= CLEAR * total };
}
