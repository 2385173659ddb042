import { randomUUID } from 'node:crypto';
import type { Made, StepDone } from '@zubrell/contract/common';
import type { GivenJournalPlan, JournalPlan } from '@zubrell/contract/journals';
import type { HandEntry } from '@zubrell/contract/ledger';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { JournalPlanId } from '@zubrell/core/ids';
import { fallsOn } from '@zubrell/core/ledger/recurring';
import { dateSaid, type Said, say } from '@zubrell/core/words/say';
import { settingsOf } from '../books/changeBooks.ts';
import { handPlans, needsOfEntries } from '../ledger/handPlans.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';
import { journalPlans } from './journalPlans.ts';
import { type JournalPlanState, putPlan, standingPlans } from './journalPlanThing.ts';

/**
 * Makes a recurring journal. Nothing is posted.
 *
 * @throws {ZubrellError} PERIOD_CLOSED, JOURNAL_END_EARLY, JOURNAL_ON_BANK, JOURNAL_UNBALANCED and those of a coding
 */
export async function makeJournalPlan(
  command: BooksCommand,
  given: GivenJournalPlan,
): Promise<Made> {
  const id = randomUUID();
  const done = await putGiven(
    command,
    { id, kind: 'makeJournalPlan', words: say`New` },
    null,
    given,
  );
  return { ...done, id };
}

/**
 * Changes a recurring journal from now on: what was posted of it stays as it is.
 *
 * @throws {ZubrellError} JOURNAL_PLAN_UNKNOWN and those of `makeJournalPlan`
 */
export async function changeJournalPlan(
  command: BooksCommand,
  id: JournalPlanId,
  given: GivenJournalPlan,
): Promise<StepDone> {
  const before = await planOf(command, id);
  return putGiven(command, { id, kind: 'changeJournalPlan', words: say`Changed` }, before, given);
}

/**
 * Removes a recurring journal: what was posted of it stays.
 *
 * @throws {ZubrellError} JOURNAL_PLAN_UNKNOWN
 */
export async function removeJournalPlan(
  command: BooksCommand,
  id: JournalPlanId,
): Promise<StepDone> {
  const before = await planOf(command, id);
  await putPlan(command, id, null);
  return recordDone(command, {
    kind: 'removeJournalPlan',
    words: say`Removed recurring journal ${before.name}`,
    items: [planItem(id, before, null)],
  });
}

/**
 * Leaves one date of a recurring journal out.
 *
 * @throws {ZubrellError} JOURNAL_PLAN_UNKNOWN, JOURNAL_NOT_DUE
 */
export async function skipJournal(
  command: BooksCommand,
  id: JournalPlanId,
  date: string,
): Promise<StepDone> {
  const before = await planOf(command, id);
  await refuseDone(command, [{ planId: id, date }]);
  const after = { ...before, skipped: [...before.skipped, date].sort() };
  await putPlan(command, id, after);
  return recordDone(command, {
    kind: 'skipJournal',
    words: say`Skipped recurring journal ${before.name} for ${dateSaid(date)}`,
    items: [planItem(id, before, after)],
  });
}

/**
 * Refuses dates on which a recurring journal doesn't fall, or that were posted or skipped.
 *
 * @returns the recurring journals, one for each date
 * @throws {ZubrellError} JOURNAL_PLAN_UNKNOWN, JOURNAL_NOT_DUE
 */
export async function refuseDone(
  { tx, booksId, clock }: BooksCommand,
  dates: readonly { readonly planId: JournalPlanId; readonly date: string }[],
): Promise<JournalPlan[]> {
  const { plans } = await journalPlans(tx, booksId, clock.today());
  return dates.map(({ planId, date }) => {
    const plan = plans.find(({ id }) => id === planId) ?? fail('JOURNAL_PLAN_UNKNOWN');
    const isDone = plan.skipped.includes(date) || plan.posted.some((each) => each.date === date);
    if (isDone || !fallsOn(plan, date)) {
      fail('JOURNAL_NOT_DUE', { name: plan.name, date: formatLongDate(date) });
    }
    return plan;
  });
}

async function planOf(command: BooksCommand, id: JournalPlanId): Promise<JournalPlanState> {
  const plans = await standingPlans(command, [id]);
  return plans.get(id) ?? fail('JOURNAL_PLAN_UNKNOWN');
}

async function putGiven(
  command: BooksCommand,
  {
    id,
    kind,
    words,
  }: {
    readonly id: string;
    readonly kind: 'makeJournalPlan' | 'changeJournalPlan';
    readonly words: Said;
  },
  before: JournalPlanState | null,
  given: GivenJournalPlan,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const { startDate, endDate } = given;
  if (endDate !== null && endDate < startDate) {
    fail('JOURNAL_END_EARLY', { end: formatLongDate(endDate), start: formatLongDate(startDate) });
  }
  const { lockDate } = await settingsOf(tx, booksId);
  // One that began before the period was closed goes on; none begins there afterwards.
  if (startDate !== before?.startDate && lockDate !== null && startDate <= lockDate) {
    fail('PERIOD_CLOSED', { date: formatLongDate(startDate), closed: formatLongDate(lockDate) });
  }
  const journal = journalOn(given, startDate);
  const [plan] = await handPlans(tx, booksId, [journal]);
  if (plan?.entry.legs.some(({ role }) => role === 'bank')) fail('JOURNAL_ON_BANK');
  const after = { ...given, skipped: before?.skipped ?? [] };
  await putPlan(command, id, after);
  return recordDone(command, {
    kind,
    words: say`${words} recurring journal ${given.name}`,
    items: [planItem(id, before, after)],
    needs: needsOfEntries([journal]),
  });
}

/** A recurring journal as the entry that it is on a date. */
export function journalOn(
  { payeeId, note, name, legs }: GivenJournalPlan,
  date: string,
): Extract<HandEntry, { kind: 'journal' }> {
  return { kind: 'journal', date, number: null, payeeId, note: note ?? name, legs };
}

function planItem(
  thingId: string,
  before: JournalPlanState | null,
  after: JournalPlanState | null,
): StepItem {
  return { thing: 'journalPlan', thingId, before, after };
}
