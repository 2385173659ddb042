import type { Habit } from '@zubrell/contract/habits';
import { plainWording } from '@zubrell/core/text/plainWording';
import { t } from '@zubrell/core/words/t';

/** Names what separators refer to. */
export interface HabitNames {
  readonly amount: (minor: number) => string;
  readonly bankAccount: (id: string) => string;
}

/** What tells the accounts of a habit apart, in a sentence. @example 'Decided by the word IMPORT.' */
export function separatorWords(
  { by, word, limit, from, bankAccountId, gain }: Habit['separators'][number],
  { amount, bankAccount }: HabitNames,
): string {
  const how = gain >= PROVEN ? t`Decided by` : t`Mostly decided by`;
  switch (by) {
    case 'word':
      return t`${how} the word ${word}.`;
    case 'number':
      return t`${how} the number ${word}.`;
    case 'weekday':
      return t`${how} the day of the week: ${weekdayWords(from ?? 0, limit ?? 0)}, or another.`;
    case 'cents':
      return t`${how} whether the amount is round.`;
    case 'amount':
      return t`${how} the amount: up to ${amount(limit ?? 0)}, and above.`;
    case 'day':
      return t`${how} the day of the month: up to the ${limit}., and after.`;
    case 'direction':
      return t`${how} whether money comes in or goes out.`;
    case 'bankAccount':
      return t`${how} the bank account: ${bankAccount(bankAccountId ?? '')}, or another.`;
  }
}

const WEEKDAYS = [
  t`Monday`,
  t`Tuesday`,
  t`Wednesday`,
  t`Thursday`,
  t`Friday`,
  t`Saturday`,
  t`Sunday`,
];

function weekdayWords(from: number, to: number): string {
  return from === to ? (WEEKDAYS[from] ?? '') : t`${WEEKDAYS[from]} to ${WEEKDAYS[to]}`;
}

/** So much of the uncertainty taken away is proof. */
const PROVEN = 0.6;

/** Whether a habit is clear, or what it lacks, in a few words. */
export function habitState({ accounts, separators, times, markId }: Habit): string {
  if (markId !== null) return t`blocked: nothing is learned`;
  if (accounts.length < 2) return times === 1 ? t`seen only once` : '';
  if (separators.some(({ gain }) => gain >= PROVEN)) return '';
  const share = (accounts[0]?.times ?? 0) / times;
  return share >= 0.9 ? '' : t`${accounts.length} accounts, and nothing reliable separates them`;
}

/** Habits whose name, wordings or accounts have what was typed. */
export function shownHabits(
  habits: readonly Habit[],
  typed: string,
  accountName: (id: string) => string,
): readonly Habit[] {
  const wanted = plainWording(typed);
  return habits.filter(({ name, stems, accounts }) =>
    plainWording(
      [name, ...stems, ...accounts.map(({ accountId }) => accountName(accountId))].join(' '),
    ).includes(wanted),
  );
}
