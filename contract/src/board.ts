import { z } from 'zod';
import { AccountId, BankAccountId, CalendarDate, Minor } from './common.ts';
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
  open: z.object({ ready: z.int(), check: z.int(), blank: z.int(), asked: z.int() }),
});
export type Board = z.infer<typeof Board>;
