import type { HabitLine, WordingFeatures } from './features.ts';
import type { Candidate, Memory, Witness } from './memory.ts';
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
  /** What tells the accounts of these look-alikes apart. */
  readonly separators: readonly Separator[];
  /** The decided lines that it rests on, the most telling first. */
  readonly witnesses: readonly Witness[];
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
}

/** What past decisions on look-alikes say about a line. @returns null where there are none alike */
export function predict(
  memory: Memory,
  line: HabitLine,
  features: WordingFeatures,
): Prediction | null {
  const heard = hear(memory, line, features);
  const shares = new Map<string, number>();
  for (const { share, total, witnesses } of heard) {
    for (const { example, weight } of witnesses) {
      const part = (share * weight) / total;
      shares.set(example.accountId, (shares.get(example.accountId) ?? 0) + part);
    }
  }
  const accounts = [...shares]
    .map(([accountId, share]) => ({ accountId, share }))
    .sort((a, b) => b.share - a.share || (a.accountId < b.accountId ? -1 : 1));
  const [first] = accounts;
  if (!first) return null;
  const best = mostFor(heard, first.accountId);
  if (!best) return null;
  const ofBest = best.witnesses;
  const separators = memory.separators(best.candidate);
  const there = ofBest.filter(({ example }) => example.accountId === first.accountId);
  return {
    accounts,
    payeeId: payeeOf(ofBest),
    ...taxOf(there.length > 0 ? there : ofBest),
    signs: {
      ...signsOf(line, best, ofBest, there),
      first: first.share,
      second: accounts[1]?.share ?? 0,
      separated:
        new Set(ofBest.map(({ example }) => example.accountId)).size < 2
          ? 1
          : (separators[0]?.gain ?? 0),
      otherLikeness: Math.max(
        0,
        ...heard.flatMap((each) => (each === best ? [] : each.candidate.likeness)),
      ),
    },
    counts: best.candidate.cluster.counts,
    separators,
    witnesses: [...ofBest].sort((a, b) => b.weight - a.weight),
  };
}

/** A candidate with what its decided lines say of a line. */
interface Heard {
  readonly candidate: Candidate;
  readonly witnesses: readonly Witness[];
  readonly total: number;
  /** How likely it is this candidate, by wording, amount and the rest; all add up to 1. */
  readonly share: number;
}

function hear(memory: Memory, line: HabitLine, features: WordingFeatures): readonly Heard[] {
  const heard = memory.candidates(features).map((candidate) => {
    const witnesses = memory.witnesses(line, features, candidate);
    const total = witnesses.reduce((sum, { weight }) => sum + weight, 0);
    return { candidate, witnesses, total, share: candidate.share * total };
  });
  const whole = heard.reduce((sum, { share }) => sum + share, 0);
  return heard.flatMap((each) => (each.total > 0 ? { ...each, share: each.share / whole } : []));
}

/** The candidate that speaks most for an account. */
function mostFor(heard: readonly Heard[], accountId: string): Heard | undefined {
  let found: Heard | undefined;
  let most = 0;
  for (const each of heard) {
    const there = each.witnesses.filter(({ example }) => example.accountId === accountId);
    const part = (each.share * there.reduce((sum, { weight }) => sum + weight, 0)) / each.total;
    if (part > most) {
      most = part;
      found = each;
    }
  }
  return found;
}

function signsOf(
  line: HabitLine,
  best: Heard,
  all: readonly Witness[],
  there: readonly Witness[],
): Omit<Signs, 'first' | 'second' | 'separated' | 'otherLikeness'> {
  const size = Math.log(Math.abs(line.amount) + 1);
  const isSameSide = ({ example }: Witness) => example.amount < 0 === line.amount < 0;
  let amountApart = 9;
  let since = 9_999;
  for (const { example } of there) {
    const apart = Math.abs(size - Math.log(Math.abs(example.amount) + 1));
    amountApart = Math.min(amountApart, apart);
    since = Math.min(since, daysBetween(example.date, line.date));
  }
  const newest = all.slice(-5);
  const account = there[0]?.example.accountId;
  const kept = newest.filter(({ example }) => example.accountId === account).length;
  return {
    likeness: best.candidate.likeness,
    shared: best.candidate.shared,
    same: all.filter(({ likeness }) => likeness > best.candidate.likeness - 0.01).length,
    payeeShare: best.share,
    times: all.length,
    timesFirst: there.length,
    newest: newest.length === 0 ? 0 : kept / newest.length,
    amountApart,
    isSameSide: there.some(isSameSide),
    isSameBank: there.some(({ example }) => example.bankAccountId === line.bankAccountId),
    daysSince: since,
  };
}

function daysBetween(from: string, to: string): number {
  return Math.max(0, (Date.parse(to) - Date.parse(from)) / 86_400_000);
}

/** The payee of the newest of the decided lines. */
function payeeOf(witnesses: readonly Witness[]): string | null {
  return witnesses.at(-1)?.example.payeeId ?? null;
}

/** A tax code that has less than this of the weight is not clear. */
const CLEAR = 0.8;

/** The tax code that weighs most. */
function taxOf(witnesses: readonly Witness[]): Pick<Prediction, 'taxCodeId' | 'isTaxClear'> {
  const weights = new Map<string | null, number>();
  for (const { example, weight } of witnesses) {
    weights.set(example.taxCodeId, (weights.get(example.taxCodeId) ?? 0) + weight);
  }
  const [best] = [...weights].sort((a, b) => b[1] - a[1]);
  const total = witnesses.reduce((sum, { weight }) => sum + weight, 0);
  return { taxCodeId: best?.[0] ?? null, isTaxClear: (best?.[1] ?? 0) >= CLEAR * total };
}
