import { MOST_BEYOND } from './chance.ts';
import type { WordingFeatures } from './features.ts';
import { ACCOUNT, AMOUNT, accountAt, BANK, COLUMNS, DAY, type Heard, SIZE } from './heard.ts';
import type { Candidate, Memory } from './memory.ts';
import type { Asked, Witnesses } from './weigh.ts';

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
  /** The same by how far separators are beyond chance, {@link MOST_BEYOND} where there is none. */
  readonly againstBeyond: number;
  readonly othersBeyond: number;
  /** How far beyond chance that is which sets other accounts' look-alikes apart, weighed by what they would say. */
  readonly meanBeyond: number;
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
  /** Whether look-alikes share a number that is hardly shared by chance: 1 the first account's, -1 only others', or 0. */
  readonly numberShared: number;
  /** How much look-alikes say for the first account, all of them together, and of one account alone. */
  readonly evidence: number;
  /** How many look-alikes with the very same amount went to the first account, and how many to others. */
  readonly sameAmount: number;
  readonly otherSameAmount: number;
  /** How alike the most alike look-alike of the first account is, and of others. */
  readonly firstLikeness: number;
  readonly elsewhereLikeness: number;
  /**
   * Of the newest look-alikes that nothing told apart from the line: how many there are, how many went to the first
   * account, and how often one went elsewhere than the one before.
   */
  readonly alongside: number;
  readonly alongsideFirst: number;
  readonly switches: number;
  /** The share of the line's words that stand in no decided line. */
  readonly unknownWords: number;
}

/** A separator less telling than this sets nothing apart. */
export const LEAST_APART = 0.3;
/** So many of the newest are looked at of those that nothing sets apart. */
const MOST_ALONGSIDE = 15;
/** So many of the newest look-alikes are looked at for whether they were all alike. */
const NEWEST = 5;
/** What stands for a month, in days. */
const MONTH = 30.4;
/** Farther apart than this, as a ratio's logarithm, or longer ago, in days, says nothing more. */
const FARTHEST = 9;
const LONGEST_AGO = 9_999;

/** The signs that are not of one candidate's decided lines alone. */
export type OuterSigns = Pick<
  Signs,
  | 'first'
  | 'second'
  | 'otherLikeness'
  | 'accounts'
  | 'numbersSeen'
  | 'numbersNew'
  | 'isNumberMissing'
  | 'evidence'
  | 'unknownWords'
>;

/** All signs there are for one of a candidate's accounts, given by its place. */
export function signsOf(
  { line, day, size }: Asked,
  candidate: Candidate,
  { heard, likenesses, plainWeights, apart, beyond, isNumberShared }: Witnesses,
  { account, ...outer }: OuterSigns & { readonly account: number },
): Signs {
  const { table, separators } = heard;
  const count = heard.examples.length;
  const isOut = line.amount < 0;
  const bank = heard.bankIds.indexOf(line.bankAccountId);
  const least = candidate.likeness - 0.01;
  let amountApart = FARTHEST;
  let daysSince = LONGEST_AGO;
  let timesFirst = 0;
  let newest = 0;
  let same = 0;
  let isSameSide = false;
  let isSameBank = false;
  let against = 1;
  let others = 1;
  let againstBeyond = MOST_BEYOND;
  let othersBeyond = MOST_BEYOND;
  let beyondAll = 0;
  let otherApart = FARTHEST;
  let plain = 0;
  let plainAll = 0;
  let months = 0;
  let monthBefore = -1;
  let numberShared = 0;
  let sameAmount = 0;
  let otherSameAmount = 0;
  let firstLikeness = 0;
  let elsewhereLikeness = 0;
  let run = 0;
  for (let at = 0; at < count; at += 1) {
    const row = at * COLUMNS;
    const likeness = likenesses[at] ?? 0;
    const amount = table[row + AMOUNT] ?? 0;
    const away = Math.abs(size - (table[row + SIZE] ?? 0));
    const weight = plainWeights[at] ?? 0;
    if (likeness > least) same += 1;
    plainAll += weight;
    if (table[row + ACCOUNT] !== account) {
      run = 0;
      others = Math.min(others, apart[at] ?? 0);
      othersBeyond = Math.min(othersBeyond, beyond[at] ?? 0);
      beyondAll += weight * (beyond[at] ?? 0);
      otherApart = Math.min(otherApart, away);
      elsewhereLikeness = Math.max(elsewhereLikeness, likeness);
      if (amount === line.amount) otherSameAmount += 1;
      if (isNumberShared[at] === 1 && numberShared === 0) numberShared = -1;
      continue;
    }
    run += 1;
    plain += weight;
    firstLikeness = Math.max(firstLikeness, likeness);
    if (amount === line.amount) sameAmount += 1;
    if (isNumberShared[at] === 1) numberShared = 1;
    against = Math.min(against, apart[at] ?? 0);
    againstBeyond = Math.min(againstBeyond, beyond[at] ?? 0);
    const month = Math.floor((table[row + DAY] ?? 0) / MONTH);
    if (month !== monthBefore) months += 1;
    monthBefore = month;
    timesFirst += 1;
    if (at >= count - NEWEST) newest += 1;
    amountApart = Math.min(amountApart, away);
    daysSince = Math.min(daysSince, Math.max(0, day - (table[row + DAY] ?? 0)));
    isSameSide ||= amount < 0 === isOut;
    isSameBank ||= table[row + BANK] === bank;
  }
  const beside = alongsideOf(heard, apart, account);
  // Written out: objects that are put together from others are slow to make and to read.
  return {
    first: outer.first,
    second: outer.second,
    likeness: candidate.likeness,
    shared: candidate.shared,
    same,
    payeeShare: candidate.share,
    times: count,
    timesFirst,
    newest: newest / Math.min(NEWEST, count || 1),
    amountApart,
    isSameSide,
    isSameBank,
    separated: heard.accountIds.length < 2 ? 1 : (separators[0]?.gain ?? 0),
    daysSince,
    otherLikeness: outer.otherLikeness,
    plain: plainAll === 0 ? 0 : plain / plainAll,
    against,
    others,
    againstBeyond,
    othersBeyond,
    meanBeyond: plainAll > plain ? beyondAll / (plainAll - plain) : MOST_BEYOND,
    separators: separators.length,
    accounts: outer.accounts,
    months,
    run,
    otherApart,
    numbersSeen: outer.numbersSeen,
    numbersNew: outer.numbersNew,
    isNumberMissing: outer.isNumberMissing,
    numberShared,
    evidence: outer.evidence,
    sameAmount,
    otherSameAmount,
    firstLikeness,
    elsewhereLikeness,
    alongside: beside.alongside,
    alongsideFirst: beside.alongsideFirst,
    switches: beside.switches,
    unknownWords: outer.unknownWords,
  };
}

/** What the newest decided lines say that nothing sets apart from the line. */
function alongsideOf(
  heard: Heard,
  apart: Float64Array,
  account: number,
): Pick<Signs, 'alongside' | 'alongsideFirst' | 'switches'> {
  let alongside = 0;
  let alongsideFirst = 0;
  let switches = 0;
  let after = -1;
  for (let at = heard.examples.length - 1; at >= 0 && alongside < MOST_ALONGSIDE; at -= 1) {
    if ((apart[at] ?? 0) > LEAST_APART) continue;
    const own = accountAt(heard, at) ?? 0;
    alongside += 1;
    if (own === account) alongsideFirst += 1;
    if (after >= 0 && own !== after) switches += 1;
    after = own;
  }
  return { alongside, alongsideFirst, switches };
}

/** A number of so many digits and letters is hardly met again by chance. */
const LONG_NUMBER = 5;

/** What a line's numbers say: how many were seen before, how many long ones are new, and one of these. */
export function numberSigns(
  memory: Memory,
  { numbers }: WordingFeatures,
  { numbers: telling }: Heard,
): {
  readonly seen: number;
  readonly fresh: number;
  /** Whether numbers tell the accounts apart, and the line has none of them. */
  readonly isMissing: boolean;
  /** If so, its first new one. */
  readonly newNumber: string | null;
} {
  let seen = 0;
  let fresh = 0;
  let first: string | null = null;
  for (const number of numbers) {
    const times = memory.timesOfNumber(number);
    if (times > 1) seen += 1;
    if (times > 0 || number.length < LONG_NUMBER) continue;
    fresh += 1;
    first ??= number;
  }
  const isMissing = telling.length > 0 && !telling.some((number) => numbers.includes(number));
  return { seen, fresh, isMissing, newNumber: isMissing ? first : null };
}
