import type { AccountId, PayeeId, TaxCodeId } from '../../ids.ts';
import type { HabitLine, WordingFeatures } from './features.ts';
import { ACCOUNT, accountAt, COLUMNS, type Heard, TAX_CODE } from './heard.ts';
import type { Candidate, Example, Memory } from './memory.ts';
import type { Separator } from './separators.ts';
import { LEAST_APART, numberSigns, type OuterSigns, type Signs, signsOf } from './signs.ts';
import { type Asked, askOf, type Witnesses } from './weigh.ts';

/** What past decisions say about a line, before anything is made of it. */
export interface Prediction {
  /** The likeliest first; shares add up to 1. */
  readonly accounts: readonly { readonly accountId: AccountId; readonly share: number }[];
  readonly payeeId: PayeeId | null;
  readonly taxCodeId: TaxCodeId | null;
  /** Whether look-alikes on the first account had this tax code, nearly all of them. */
  readonly isTaxClear: boolean;
  readonly signs: Signs;
  /** How many look-alikes went to each account, all of them. */
  readonly counts: ReadonlyMap<string, number>;
  /** What tells the accounts of these look-alikes apart, and on which side of each the line lies: a bit each. */
  readonly separators: readonly Separator[];
  readonly sides: number;
  /** The account of the newest look-alike, where nothing tells it apart from the line and none went there before. */
  readonly lastElsewhere: string | null;
  /** A number of the line that was never seen, where numbers tell the accounts apart and it has none of those. */
  readonly newNumber: string | null;
  /** A number that the line shares with look-alikes and that is hardly shared by chance. */
  readonly sharedNumber: string | null;
  /** The decided lines that it rests on, in the order in which they were decided. */
  readonly heard: Heard;
}

/** What past decisions on look-alikes say about a line. @returns null where there are none alike */
export function predict(
  memory: Memory,
  line: HabitLine,
  features: WordingFeatures,
): Prediction | null {
  const asked = askOf(line, features);
  const heard = hear(memory, asked);
  const accounts = accountsOf(heard);
  const [first] = accounts;
  const best = first && mostFor(heard, first.accountId);
  if (!best) return null;
  const { account } = best;
  const { candidate } = best.of;
  const { separators, examples } = best.of.heard;
  const numbers = numberSigns(memory, features, best.of.heard);
  let otherLikeness = 0;
  for (const each of heard) {
    if (each !== best.of) otherLikeness = Math.max(otherLikeness, each.candidate.likeness);
  }
  const outer: OuterSigns = {
    first: first.share,
    second: accounts[1]?.share ?? 0,
    otherLikeness,
    accounts: candidate.cluster.counts.size,
    numbersSeen: numbers.seen,
    numbersNew: numbers.fresh,
    isNumberMissing: numbers.isMissing,
    evidence: best.of.sums[account] ?? 0,
    unknownWords: memory.unknownWords(features.words),
  };
  const witnesses = memory.witnesses(asked, candidate);
  return {
    accounts,
    payeeId: examples.at(-1)?.payeeId ?? null,
    ...taxOf(witnesses, account),
    signs: signsOf(asked, candidate, witnesses, { ...outer, account }),
    counts: candidate.cluster.counts,
    separators,
    sides: witnesses.sides,
    lastElsewhere: lastElsewhere(witnesses, account),
    newNumber: numbers.newNumber,
    sharedNumber: witnesses.sharedNumber,
    heard: best.of.heard,
  };
}

/** How much each decided line says that a prediction rests on; empty where there is none. */
export function weightsOf(
  memory: Memory,
  line: HabitLine,
  features: WordingFeatures,
): readonly { readonly example: Example; readonly weight: number }[] {
  const asked = askOf(line, features);
  const heard = hear(memory, asked);
  const [first] = accountsOf(heard);
  const best = first && mostFor(heard, first.accountId);
  if (!best) return [];
  const { weights } = memory.witnesses(asked, best.of.candidate);
  return best.of.heard.examples.map((example, at) => ({ example, weight: weights[at] ?? 0 }));
}

/** A candidate with what its decided lines say of a line. */
interface HeardCandidate {
  readonly candidate: Candidate;
  readonly heard: Heard;
  /** How much they say for each account, in the order of `heard.accountIds`, and in all. */
  readonly sums: readonly number[];
  readonly total: number;
  /** How likely it is this candidate, by wording, amount and the rest; all add up to 1. */
  share: number;
}

function hear(memory: Memory, asked: Asked): readonly HeardCandidate[] {
  let whole = 0;
  const all: HeardCandidate[] = [];
  for (const candidate of memory.candidates(asked.features)) {
    const { heard, weights } = memory.witnesses(asked, candidate);
    const sums: number[] = heard.accountIds.map(() => 0);
    let total = 0;
    for (let at = 0; at < heard.examples.length; at += 1) {
      const weight = weights[at] ?? 0;
      const account = accountAt(heard, at) ?? 0;
      sums[account] = (sums[account] ?? 0) + weight;
      total += weight;
    }
    if (total === 0) continue;
    const share = candidate.share * total;
    whole += share;
    all.push({ candidate, heard, sums, total, share });
  }
  for (const each of all) each.share /= whole;
  return all;
}

/** What candidates say together, the likeliest account first. */
function accountsOf(all: readonly HeardCandidate[]): Prediction['accounts'] {
  const accounts: { readonly accountId: AccountId; share: number }[] = [];
  for (const { heard, sums, share, total } of all) {
    for (let place = 0; place < heard.accountIds.length; place += 1) {
      const accountId = heard.accountIds[place] ?? '';
      const own = (share * (sums[place] ?? 0)) / total;
      const known = accounts.find((each) => each.accountId === accountId);
      if (known) known.share += own;
      else accounts.push({ accountId, share: own });
    }
  }
  return accounts.sort((a, b) => b.share - a.share || (a.accountId < b.accountId ? -1 : 1));
}

/** The candidate that speaks most for an account, with the account's place in it. */
function mostFor(
  heard: readonly HeardCandidate[],
  accountId: AccountId,
): { readonly of: HeardCandidate; readonly account: number } | undefined {
  let found: { readonly of: HeardCandidate; readonly account: number } | undefined;
  let most = 0;
  for (const each of heard) {
    const account = each.heard.accountIds.indexOf(accountId);
    const part = (each.share * (each.sums[account] ?? 0)) / each.total;
    if (part > most) {
      most = part;
      found = { of: each, account };
    }
  }
  return found;
}

function lastElsewhere({ heard, apart }: Witnesses, account: number): string | null {
  const at = heard.examples.length - 1;
  const last = accountAt(heard, at) ?? account;
  if (last === account || (apart[at] ?? 0) > LEAST_APART) return null;
  for (let before = 0; before < at; before += 1) if (accountAt(heard, before) === last) return null;
  return heard.accountIds[last] ?? null;
}

/** A tax code that has less than this of the weight is not clear. */
const CLEAR = 0.8;

/** The tax code that weighs most among lines on an account, given by its place. */
function taxOf(
  { heard: { examples, table, taxCodeIds }, weights: own }: Witnesses,
  account: number,
): Pick<Prediction, 'taxCodeId' | 'isTaxClear'> {
  const weights: number[] = taxCodeIds.map(() => 0);
  let total = 0;
  for (let at = 0; at < examples.length; at += 1) {
    const row = at * COLUMNS;
    if (table[row + ACCOUNT] !== account) continue;
    const weight = own[at] ?? 0;
    const taxCode = table[row + TAX_CODE] ?? 0;
    weights[taxCode] = (weights[taxCode] ?? 0) + weight;
    total += weight;
  }
  const most = Math.max(0, ...weights);
  const taxCodeId = most > 0 ? (taxCodeIds[weights.indexOf(most)] ?? null) : null;
  return { taxCodeId, isTaxClear: most >= CLEAR * total };
}
