import type { AccountId } from '../../ids.ts';
import type { Aspects } from './separators.ts';
import { raise } from './wordings.ts';

/** Words at the end of a payee's wordings that the bank has cut off: beginnings of words that stand whole in others. */
export interface CutWords {
  /** What a line shows, with its last word whole where only one can be meant. */
  readonly madeWhole: <Own extends Aspects>(aspects: Own) => Own;
  /** The words that a line's last may be the beginning of, where these are several; else none. */
  readonly maybe: (aspects: Aspects) => readonly string[];
}

const NONE: readonly string[] = [];
/** What stands so often is no misspelling. */
const OFTEN = 2;

/** Learns from what decided lines of one payee show, and where they went. */
export function cutWordsOf(
  all: readonly (Aspects & { readonly accountId: AccountId })[],
): CutWords {
  const times = new Map<string, number>();
  const timesLast = new Map<string, number>();
  for (const [words, lines] of countLists(all)) {
    for (const word of words) raise(times, word, lines);
    const last = words.at(-1);
    if (last !== undefined) raise(timesLast, last, lines);
  }
  const often: string[] = [];
  for (const [word, count] of times) if (count >= OFTEN) often.push(word);
  often.sort();
  const accounts = new Map<string, AccountId | null>();
  /** Where most lines with a word went. */
  const accountOf = (word: string): AccountId | null => {
    const known = accounts.get(word);
    if (known !== undefined) return known;
    const found = mostOf(all.filter(({ words }) => words.includes(word)));
    accounts.set(word, found);
    return found;
  };
  /** The words that a line's last begins. A payee's only word is a name, which is for likeness to compare. */
  const begunBy = ({ words }: Aspects): readonly string[] => {
    const last = words.length < 2 ? undefined : words.at(-1);
    // What stands elsewhere than at the end is a word by itself.
    if (last === undefined || times.get(last) !== timesLast.get(last)) return NONE;
    const longer = longerThan(last, often);
    // And so is what went elsewhere.
    const isOf = (short: string, long: string) => accountOf(short) === accountOf(long);
    const meant = times.has(last) ? longer.filter((each) => isOf(last, each)) : longer;
    // Of one that is cut off at several places, the longest.
    return meant.filter(
      (each) => !meant.some((other) => isLonger(other, each) && isOf(each, other)),
    );
  };
  return {
    madeWhole(aspects) {
      const [only, ...others] = begunBy(aspects);
      if (only === undefined || others.length > 0) return aspects;
      return { ...aspects, words: [...aspects.words.slice(0, -1), only] };
    },
    maybe(aspects) {
      const found = begunBy(aspects);
      return found.length > 1 ? found : NONE;
    },
  };
}

/** The account that most of some decisions went to. */
function mostOf(decided: readonly { readonly accountId: AccountId }[]): AccountId | null {
  const counts = new Map<AccountId, number>();
  let most: AccountId | null = null;
  for (const { accountId } of decided) {
    raise(counts, accountId, 1);
    if (most === null || (counts.get(accountId) ?? 0) > (counts.get(most) ?? 0)) most = accountId;
  }
  return most;
}

/** How many lines have each list of words: those of one wording have the same. */
function countLists(all: readonly Aspects[]): ReadonlyMap<readonly string[], number> {
  const lists = new Map<readonly string[], number>();
  for (const { words } of all) raise(lists, words, 1);
  return lists;
}

/** Of some words in their order those that a shorter one begins. */
function longerThan(word: string, sorted: readonly string[]): readonly string[] {
  let from = 0;
  let to = sorted.length;
  while (from < to) {
    const middle = (from + to) >> 1;
    if ((sorted[middle] ?? '') <= word) from = middle + 1;
    else to = middle;
  }
  let end = from;
  while (end < sorted.length && isLonger(sorted[end] ?? '', word)) end += 1;
  return end === from ? NONE : sorted.slice(from, end);
}

function isLonger(long: string, short: string): boolean {
  return long.length > short.length && long.startsWith(short);
}
