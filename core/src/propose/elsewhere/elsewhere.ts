import { groupBy } from '../../groupBy.ts';
import type { AccountId } from '../../ids.ts';
import { plainWording } from '../../text/plainWording.ts';
import { type WordingFeatures, wordingFeatures } from '../habit/features.ts';
import { makeMemory } from '../habit/memory.ts';
import type { NamedAccount } from '../starter/trades.ts';
import { matchAll, type UsedAccount } from './matchAccounts.ts';

/** What some of the owner's other books did with lines that are alike. */
export interface OtherHabit {
  /** Tells the books apart; it says nothing else of them. */
  readonly book: number;
  /** The payee's name; null where none was named. */
  readonly payee: string | null;
  /** What the lines have in common. */
  readonly wording: string;
  readonly isOut: boolean;
  readonly account: NamedAccount;
  /** How many lines there were. */
  readonly times: number;
}

/** An account of these books with the names of payees whose lines went there. */
export interface OwnAccount extends NamedAccount {
  readonly payees: readonly string[];
}

/** What other books say of a line. */
export interface OtherBooksSay {
  /** An account of these books. */
  readonly accountId: AccountId;
  /** How many of the other books have it so, of how many that know the payee. */
  readonly books: number;
  readonly of: number;
}

/** Looks up what other books did with a payee's lines. */
export type Elsewhere = (isOut: boolean, features: WordingFeatures) => OtherBooksSay | null;

/** Less alike, it need not be the same payee; and so likely it has to be this one and no other. */
const LEAST_ALIKE = 0.55;
const LEAST_SHARE = 0.5;
/** Habits have no date and no amount: any will do. */
const LINE = {
  date: '2000-01-01',
  description: '',
  reference: null,
  payee: null,
  bankAccountId: '',
};

/**
 * Takes in what other books did, in terms of these books' accounts.
 *
 * @param habits of all other books that may be asked
 */
export function makeElsewhere(
  habits: readonly OtherHabit[],
  ours: readonly OwnAccount[],
): Elsewhere {
  const own = ours.map((account) => ({
    ...account,
    payees: new Set(account.payees.map(plainWording)),
  }));
  const memory = makeMemory();
  /** What each taken-in habit is. */
  const kept = new Map<
    string,
    { readonly habit: OtherHabit; readonly accountId: AccountId | null }
  >();
  const byBook = groupBy(habits, ({ book }) => book);
  const matched = matchAll([...byBook.values()].map(usedAccounts), own);
  for (const [book, theirs] of byBook) {
    for (const [at, habit] of theirs.entries()) {
      const id = `${book}|${at}`;
      const accountId = matched.get(habit.account.id) ?? null;
      kept.set(id, { habit, accountId });
      const payeeId = plainWording(habit.payee ?? habit.wording);
      memory.add(
        {
          id,
          label: payeeId,
          position: at,
          accountId: accountId ?? '',
          payeeId,
          taxCodeId: null,
          weight: 1,
        },
        { ...LINE, amount: habit.isOut ? -1 : 1 },
        wordingFeatures(`${habit.wording} ${habit.payee ?? ''}`),
      );
    }
  }
  return (isOut, features) => {
    const [best] = memory.candidates(features);
    if (!best || best.likeness < LEAST_ALIKE || best.share < LEAST_SHARE) return null;
    const known = best.cluster.examples.flatMap(({ id }) => {
      const found = kept.get(id);
      return found && found.habit.isOut === isOut ? found : [];
    });
    return mostBooks(known);
  };
}

/** The accounts of one of the books, with the payees whose lines went there. */
function usedAccounts(habits: readonly OtherHabit[]): UsedAccount[] {
  return [...groupBy(habits, ({ account }) => account.id).values()].flatMap((there) => {
    const [first] = there;
    const payees = there.flatMap(({ payee }) => (payee === null ? [] : plainWording(payee)));
    return first ? { ...first.account, payees: new Set(payees) } : [];
  });
}

/** The account that most books have it on; where as many have another, the one of more lines. */
function mostBooks(
  known: readonly { readonly habit: OtherHabit; readonly accountId: AccountId | null }[],
): OtherBooksSay | null {
  const ranked = [...groupBy(known, ({ accountId }) => accountId)]
    .map(([accountId, of]) => ({
      accountId,
      books: new Set(of.map(({ habit }) => habit.book)).size,
      times: of.reduce((sum, { habit }) => sum + habit.times, 0),
    }))
    .filter(({ accountId }) => accountId !== null)
    .sort((a, b) => b.books - a.books || b.times - a.times);
  const [first] = ranked;
  if (!first?.accountId) return null;
  const all = new Set(known.map(({ habit }) => habit.book)).size;
  return { accountId: first.accountId, books: first.books, of: all };
}
