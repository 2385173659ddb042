import { HandEntry } from '@zubrell/contract/ledger';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import type { Tx } from '../../db/database.ts';
import { type HandPlan, handPlans } from './handPlans.ts';
import type { NewEntry } from './insertEntries.ts';

/**
 * Plans with the reversal of the first of them.
 *
 * @param reverseOn the day of the reversal; null for none
 * @throws {ZubrellError} REVERSAL_NOT_JOURNAL, REVERSAL_EARLY, JOURNAL_ON_BANK
 */
export async function withReversal(
  tx: Tx,
  booksId: BooksId,
  plans: readonly HandPlan[],
  reverseOn: string | null,
): Promise<readonly HandPlan[]> {
  const [first] = plans;
  if (reverseOn === null || first === undefined) return plans;
  return [...plans, ...(await reversalPlans(tx, booksId, first.entry, reverseOn))];
}

/**
 * A journal's reversal: the same legs turned, on another day.
 *
 * @throws {ZubrellError} REVERSAL_NOT_JOURNAL, REVERSAL_EARLY, JOURNAL_ON_BANK
 */
export async function reversalPlans(
  tx: Tx,
  booksId: BooksId,
  entry: NewEntry,
  date: string,
): Promise<readonly HandPlan[]> {
  const content = HandEntry.parse(entry.content);
  if (content.kind !== 'journal') fail('REVERSAL_NOT_JOURNAL');
  if (entry.legs.some(({ role }) => role === 'bank')) fail('JOURNAL_ON_BANK');
  if (date < content.date) {
    fail('REVERSAL_EARLY', { date: formatLongDate(date), of: formatLongDate(content.date) });
  }
  const note = `Reversal of ${content.note ?? `the journal of ${formatLongDate(content.date)}`}`;
  const turned: HandEntry = {
    ...content,
    date,
    note: note.slice(0, 1_000),
    legs: content.legs.map(({ accountId, amount }) => ({ accountId, amount: -amount })),
  };
  const [plan = fail('ENTRY_NIL')] = await handPlans(tx, booksId, [turned]);
  return [{ ...plan, entry: { ...plan.entry, reverses: entry.id } }];
}
