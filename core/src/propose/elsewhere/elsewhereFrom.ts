import { groupBy } from '../../groupBy.ts';
import type { AccountId, PayeeId } from '../../ids.ts';
import { stemOf } from '../../text/stemOf.ts';
import type { HabitLine } from '../habit/features.ts';
import { type Elsewhere, makeElsewhere, type OtherHabit, type OwnAccount } from './elsewhere.ts';

/** A line of books that are told by their lines alone: an account is known by its name. */
export interface CodedLine extends HabitLine {
  readonly accountId: AccountId | null;
  readonly payeeId: PayeeId | null;
}

/**
 * What other books did, where books are files of coded lines. Their accounts are what the lines are coded to; of
 * these books no line is looked at but for which accounts there are.
 */
export function elsewhereFrom(
  ours: readonly CodedLine[],
  others: readonly (readonly CodedLine[])[],
): Elsewhere {
  const habits = others.flatMap((lines, book): OtherHabit[] => {
    const types = typesOf(lines);
    const coded = groupBy(lines, (line) => habitKey(line));
    return [...coded.values()].flatMap((alike) => {
      const [first] = alike;
      if (!first?.accountId) return [];
      const { accountId, payeeId, amount } = first;
      const type = types.get(accountId) ?? 'expense';
      const account = { id: `${book}|${accountId}`, name: accountId, purpose: '', type };
      return [
        {
          book,
          payee: payeeId,
          wording: stemOf(first),
          isOut: amount < 0,
          account,
          times: alike.length,
        },
      ];
    });
  });
  const chart = [...typesOf(ours)].map(
    ([name, type]): OwnAccount => ({ id: name, name, purpose: '', type, payees: [] }),
  );
  return makeElsewhere(habits, chart);
}

const habitKey = (line: CodedLine) =>
  [stemOf(line), line.payeeId ?? '', line.accountId ?? '', line.amount < 0].join('\n');

/** What each account is: what mostly comes in is income. */
function typesOf(lines: readonly CodedLine[]): ReadonlyMap<string, 'expense' | 'income'> {
  const sums = new Map<string, number>();
  for (const { accountId, amount } of lines) {
    if (accountId) sums.set(accountId, (sums.get(accountId) ?? 0) + Math.sign(amount));
  }
  return new Map([...sums].map(([name, sum]) => [name, sum > 0 ? 'income' : 'expense']));
}
