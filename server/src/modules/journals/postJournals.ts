import type { StepDone } from '@zubrell/contract/common';
import type { PostJournals } from '@zubrell/contract/journals';
import { addDays, lastDayOf, monthOf } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import { dateSaid, say } from '@zubrell/core/words/say';
import { needs } from '../books/needsOf.ts';
import {
  followPlans,
  type HandPlan,
  handPlans,
  insertHandPlans,
  needsOfEntries,
} from '../ledger/handPlans.ts';
import { reversalPlans } from '../ledger/reversals.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone } from '../steps/recordStep.ts';
import { journalOn, refuseDone } from './changeJournalPlans.ts';

/**
 * Posts dates of recurring journals, each with its reversal where it has one, as one step. A date in a closed period
 * counts on the first open day: it is late.
 *
 * @throws {ZubrellError} JOURNAL_PLAN_UNKNOWN, JOURNAL_NOT_DUE, JOURNAL_ON_BANK and those of a coding
 */
export async function postJournals(
  command: BooksCommand,
  { journals }: PostJournals,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const dates = [
    ...new Map(journals.map((each) => [`${each.planId} ${each.date}`, each])).values(),
  ];
  const plans = await refuseDone(command, dates);
  const wanted = plans.map((plan, at) => {
    const { date } = dates[at] ?? fail('JOURNAL_PLAN_UNKNOWN');
    return { date, plan, journal: journalOn(plan, date) };
  });
  const made = await handPlans(
    tx,
    booksId,
    wanted.map(({ journal }) => journal),
  );
  const posted: HandPlan[] = [];
  for (const [at, { entry, settled }] of made.entries()) {
    const { date, plan } = wanted[at] ?? fail('JOURNAL_PLAN_UNKNOWN');
    const reversals = plan.isReversing
      ? await reversalPlans(tx, booksId, entry, addDays(lastDayOf(monthOf(date)), 1))
      : [];
    posted.push({ entry: { ...entry, plan: { id: plan.id, date } }, settled }, ...reversals);
  }
  const late = posted.map((each) => ({ ...each, entry: { ...each.entry, mayBeLate: true } }));
  const items = await insertHandPlans(command, late);
  const [only] = wanted;
  const done = await recordDone(command, {
    kind: 'postJournals',
    words:
      wanted.length === 1 && only
        ? say`Posted recurring journal ${only.plan.name} of ${dateSaid(only.date)}`
        : say`Posted ${wanted.length} recurring journals`,
    items,
    needs: [
      ...needs(
        'journalPlan',
        plans.map(({ id }) => id),
      ),
      ...needsOfEntries(wanted.map(({ journal }) => journal)),
    ],
  });
  await followPlans(command, late);
  return done;
}
