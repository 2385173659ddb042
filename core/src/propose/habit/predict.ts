import type { HabitLine, WordingFeatures } from './features.ts';
import type { Candidate, Memory } from './memory.ts';
import type { Separator } from './separators.ts';
import { LEAST_APART, numberSigns, type Signs, signsOf } from './signs.ts';
import { type Asked, askOf, type Witnesses } from './weigh.ts';

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
  /** The account of the newest look-alike, where nothing tells it apart from the line and none went there before. */
  readonly lastElsewhere: string | null;
  /** A number of the line that was never seen, where numbers tell the accounts apart and it has none of those. */
  readonly newNumber: string | null;
  /** The decided lines that it rests on, in the order in which they were decided. */
  readonly witnesses: Witnesses;
}

/** What past decisions on look-alikes say about a line. @returns null where there are none alike */
export function predict(
  memory: Memory,
  line: HabitLine,
  features: WordingFeatures,
): Prediction | null {
  const asked = askOf(line, features);
  const heard = hear(memory, asked);
  const shares = new Map<string, number>();
  for (const { share, total, sums, witnesses } of heard) {
    for (const [place, accountId] of witnesses.heard.accountIds.entries()) {
      const own = (share * (sums[place] ?? 0)) / total;
      shares.set(accountId, (shares.get(accountId) ?? 0) + own);
    }
  }
  const accounts = [...shares]
    .map(([accountId, share]) => ({ accountId, share }))
    .sort((a, b) => b.share - a.share || (a.accountId < b.accountId ? -1 : 1));
  const [first] = accounts;
  const best = first && mostFor(heard, first.accountId);
  if (!best) return null;
  const { account } = best;
  const { candidate, witnesses } = best.of;
  const { separators, examples } = witnesses.heard;
  const numbers = numberSigns(memory, features, separators);
  return {
    accounts,
    payeeId: examples.at(-1)?.payeeId ?? null,
    ...taxOf(witnesses, account),
    signs: signsOf(asked, candidate, witnesses, account, {
      ...numbers.signs,
      accounts: candidate.cluster.counts.size,
      first: first.share,
      second: accounts[1]?.share ?? 0,
      otherLikeness: heard.reduce(
        (most, each) => (each === best.of ? most : Math.max(most, each.candidate.likeness)),
        0,
      ),
      evidence: best.of.sums[account] ?? 0,
      unknownWords: memory.unknownWords(features.words),
    }),
    counts: candidate.cluster.counts,
    separators,
    sides: separators.map((_, place) => ((witnesses.sides >> place) & 1) === 1),
    lastElsewhere: lastElsewhere(witnesses, account),
    newNumber: numbers.newNumber,
    witnesses,
  };
}

/** A candidate with what its decided lines say of a line. */
interface HeardCandidate {
  readonly candidate: Candidate;
  readonly witnesses: Witnesses;
  /** How much they say for each account, in the order of `heard.accountIds`, and in all. */
  readonly sums: Float64Array;
  readonly total: number;
  /** How likely it is this candidate, by wording, amount and the rest; all add up to 1. */
  readonly share: number;
}

function hear(memory: Memory, asked: Asked): readonly HeardCandidate[] {
  let whole = 0;
  const heard = memory.candidates(asked.features).map((candidate): HeardCandidate => {
    const witnesses = memory.witnesses(asked, candidate);
    const { weights } = witnesses;
    const { accounts, accountIds } = witnesses.heard;
    const sums = new Float64Array(accountIds.length);
    let total = 0;
    for (let at = 0; at < weights.length; at += 1) {
      const weight = weights[at] ?? 0;
      const account = accounts[at] ?? 0;
      sums[account] = (sums[account] ?? 0) + weight;
      total += weight;
    }
    const share = candidate.share * total;
    whole += share;
    return { candidate, witnesses, sums, total, share };
  });
  return heard.flatMap((each) => (each.total > 0 ? { ...each, share: each.share / whole } : []));
}

/** The candidate that speaks most for an account, with the account's place in it. */
function mostFor(
  heard: readonly HeardCandidate[],
  accountId: string,
): { readonly of: HeardCandidate; readonly account: number } | undefined {
  let found: { readonly of: HeardCandidate; readonly account: number } | undefined;
  let most = 0;
  for (const each of heard) {
    const account = each.witnesses.heard.accountIds.indexOf(accountId);
    const part = (each.share * (each.sums[account] ?? 0)) / each.total;
    if (part > most) {
      most = part;
      found = { of: each, account };
    }
  }
  return found;
}

function lastElsewhere({ heard, apart }: Witnesses, account: number): string | null {
  const { accounts, accountIds } = heard;
  const at = accounts.length - 1;
  const last = accounts[at] ?? account;
  const isNew = accounts.indexOf(last) === at;
  if (last === account || !isNew || (apart[at] ?? 0) > LEAST_APART) return null;
  return accountIds[last] ?? null;
}

/** A tax code that has less than this of the weight is not clear. */
const CLEAR = 0.8;

/** The tax code that weighs most among lines on an account, given by its place. */
function taxOf(
  { heard: { accounts, taxCodes, taxCodeIds }, weights: own }: Witnesses,
  account: number,
): Pick<Prediction, 'taxCodeId' | 'isTaxClear'> {
  const weights = new Float64Array(taxCodeIds.length);
  let total = 0;
  for (let at = 0; at < accounts.length; at += 1) {
    if (accounts[at] !== account) continue;
    const weight = own[at] ?? 0;
    const taxCode = taxCodes[at] ?? 0;
    weights[taxCode] = (weights[taxCode] ?? 0) + weight;
    total += weight;
  }
  const most = Math.max(0, ...weights);
  const taxCodeId = most > 0 ? (taxCodeIds[weights.indexOf(most)] ?? null) : null;
  return { taxCodeId, isTaxClear: most >= CLEAR * total };
}
