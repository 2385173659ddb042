import type { AccountId, PayeeId } from '../ids.ts';
import { type HabitLine, textOf, wordingFeatures } from '../propose/habit/features.ts';
import { labelOf, type Memory, makeMemory } from '../propose/habit/memory.ts';
import { type Prediction, predict } from '../propose/habit/predict.ts';
import { stemOf } from '../text/stemOf.ts';

/** A line for tests of habits. */
export function habitLine(
  description: string,
  amount: number,
  change: Partial<HabitLine> = {},
): HabitLine {
  const rest = { date: '2026-03-01', reference: null, payee: null, bankAccountId: 'everyday' };
  return { description, amount, ...rest, ...change };
}

/** A decided line: wording, amount, account, and what else is not usual. */
export type Past = readonly [
  description: string,
  amount: number,
  accountId: AccountId,
  change?: Partial<HabitLine> & { readonly payeeId?: PayeeId | null },
];

const WEEK = 7 * 86_400_000;

/** A memory of decided lines, a week from one to the next, each of the payee that its first words name. */
export function memoryOf(past: readonly Past[]): Memory {
  const memory = makeMemory();
  past.forEach(([description, amount, accountId, change = {}], at) => {
    const named = description.replace(/^(CRD PUR|DD) /, '');
    const { payeeId = named.split(' ').slice(0, 2).join(' ') } = change;
    const date = new Date(Date.UTC(2026, 2, 1) - (past.length - at) * WEEK);
    const line = habitLine(description, amount, {
      date: date.toISOString().slice(0, 10),
      ...change,
    });
    const label = labelOf(payeeId, stemOf(line));
    const coded = { accountId, payeeId, taxCodeId: '20' };
    const decided = { id: `${at}`, label, position: at, ...coded, weight: 1 };
    memory.add(decided, line, wordingFeatures(textOf(line)));
  });
  return memory;
}

/** What a memory predicts for a line. */
export function predicted(memory: Memory, line: HabitLine): Prediction | null {
  return predict(memory, line, wordingFeatures(textOf(line)));
}

/** The same line so many times. */
export function times(count: number, past: Past): Past[] {
  return Array.from({ length: count }, () => past);
}
