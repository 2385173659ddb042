import { z } from 'zod';
import { AccountId, BankAccountId, CalendarDate, Minor, UserId } from './common.ts';
import { ProofCause } from './desk.ts';

/** A month of a bank account, as the Board shows it. */
export const BoardCell = z.object({
  /** `2026-03` */
  month: z.string(),
  lines: z.int(),
  /** Open lines, and of them those that are Ready. */
  open: z.int(),
  ready: z.int(),
  /** At the end of the last day of the month with a stated balance; null where none is known. */
  unexplained: Minor.nullable(),
  isClosed: z.boolean(),
});
export type BoardCell = z.infer<typeof BoardCell>;

/** Where stated balances stop adding up. */
export const ChainBreakShown = z.object({
  date: CalendarDate,
  stated: Minor,
  difference: Minor,
  since: CalendarDate.nullable(),
});
export type ChainBreakShown = z.infer<typeof ChainBreakShown>;

/** A bank account with its months. */
export const BoardRow = z.object({
  bankAccountId: BankAccountId,
  cells: z.array(BoardCell),
  firstBreak: ChainBreakShown.nullable(),
  /** The last day whose lines are known: of a line or a statement. */
  knownTo: CalendarDate.nullable(),
});
export type BoardRow = z.infer<typeof BoardRow>;

/** What waits on an account that should come to zero. */
export const Clearing = z.object({
  role: z.enum(['suspense', 'transfers']),
  accountId: AccountId,
  balance: Minor,
  count: z.int(),
  /** The day since which the account has not come to zero. */
  since: CalendarDate,
  days: z.int(),
  /** Whether it is older than the books allow. */
  isStale: z.boolean(),
  /** Who booked there last. */
  who: z.string(),
});
export type Clearing = z.infer<typeof Clearing>;

/** Open documents of one kind: how many, and what they come to. */
const DueDocuments = z.object({ count: z.int(), total: Minor });

/** What wants doing by a day. */
export const Due = z.object({
  /** Bills that should have been paid, and those due in the next days. */
  billsOverdue: DueDocuments,
  billsSoon: DueDocuments,
  invoicesOverdue: DueDocuments,
  /** The oldest month with lines that is over and not closed. */
  month: z.string().nullable(),
  /** The period that is over and whose tax is not reported; null where the books have no tax. */
  tax: z.object({ from: CalendarDate, to: CalendarDate }).nullable(),
});
export type Due = z.infer<typeof Due>;

/** What others did since the reader was here last; of their first visit, in the last days. */
export const SinceVisit = z.object({
  /** When the visit before ended; null at the first one. */
  at: z.iso.datetime({ offset: true }).nullable(),
  /** What came in by feeds, and by files of others. */
  came: z.object({ lines: z.int(), batches: z.int() }),
  /** Who did something, whoever did most first. */
  people: z.array(
    z.object({
      userId: UserId,
      name: z.string(),
      steps: z.int(),
      /** How many lines they decided. */
      lines: z.int(),
      /** The newest of their steps, in words. */
      last: z.string(),
    }),
  ),
  answers: z.int(),
});
export type SinceVisit = z.infer<typeof SinceVisit>;

/** Everything at a glance. */
export const Board = z.object({
  months: z.array(z.string()),
  rows: z.array(BoardRow),
  /** What is unexplained now, account by account and part by part. */
  causes: z.array(ProofCause).readonly(),
  /** What waits on the suspense account and between own accounts, from the age on that the books set. */
  clearing: z.array(Clearing),
  /** Recurring journals: how many are due, since when, and the next one that is not due yet. */
  journals: z.object({
    due: z.int(),
    oldest: CalendarDate.nullable(),
    next: z.object({ name: z.string(), date: CalendarDate, amount: Minor }).nullable(),
  }),
  due: Due,
  open: z.object({ ready: z.int(), check: z.int(), blank: z.int(), asked: z.int() }),
});
export type Board = z.infer<typeof Board>;
