import { rhythms } from '@zubrell/core/ledger/recurring';
import { z } from 'zod';
import {
  AccountId,
  BooksParams,
  CalendarDate,
  EntryId,
  GivenAmount,
  GivenDate,
  JournalPlanId,
  Minor,
  neededText,
  PayeeId,
  text,
} from './common.ts';

/** The legs of a journal as it is typed, debit positive. */
export const JournalLegs = z
  .array(z.object({ accountId: AccountId, amount: GivenAmount }))
  .min(2)
  .max(200);

/** A journal that recurs, as it is typed. */
export const GivenJournalPlan = z.object({
  name: neededText(200, 'give the journal a name'),
  payeeId: PayeeId.nullable(),
  note: text(1_000).nullable(),
  legs: JournalLegs,
  rhythm: z.enum(rhythms),
  startDate: GivenDate,
  /** The last day that it may fall on; null where it goes on. */
  endDate: GivenDate.nullable(),
  /** Each one is reversed on the first of the next month. */
  isReversing: z.boolean(),
});
export type GivenJournalPlan = z.infer<typeof GivenJournalPlan>;

/** A journal that recurs, with what of it is due. */
export const JournalPlan = GivenJournalPlan.extend({
  id: JournalPlanId,
  /** The sum of its debits. */
  amount: Minor,
  /** Dates up to today that were neither posted nor skipped, the oldest first. */
  due: z.array(CalendarDate),
  /** The next date after today; null where it has ended. */
  next: CalendarDate.nullable(),
  /** Dates that somebody said it is not posted on. */
  skipped: z.array(CalendarDate),
  /** What was posted of it, the newest first. */
  posted: z.array(z.object({ entryId: EntryId, date: CalendarDate })),
});
export type JournalPlan = z.infer<typeof JournalPlan>;
export const JournalPlans = z.object({ plans: z.array(JournalPlan) });
export type JournalPlans = z.infer<typeof JournalPlans>;

/** A date of a journal that recurs. */
export const JournalDate = z.object({ planId: JournalPlanId, date: GivenDate });
export type JournalDate = z.infer<typeof JournalDate>;

export const PostJournals = z.object({ journals: z.array(JournalDate).min(1).max(500) });
export type PostJournals = z.infer<typeof PostJournals>;

export const SkipJournal = z.object({ date: GivenDate });
export const ReverseEntry = z.object({ date: GivenDate });

export const JournalPlanParams = BooksParams.extend({ planId: JournalPlanId });
