import { closingChecks, closingStates } from '@zubrell/core/closing/months';
import { z } from 'zod';
import {
  AccountId,
  BankAccountId,
  BooksParams,
  CalendarDate,
  LineId,
  Minor,
  PayeeId,
  Seen,
  typedText,
} from './common.ts';
import { StatementSummary } from './statements.ts';

/** A month of books, as in `2026-03`. */
export const Month = z.string().regex(/^(19[7-9]|20\d)\d-(0[1-9]|1[0-2])$/, {
  error: 'a month looks like 2026-03',
});
export const MonthParams = BooksParams.extend({ month: Month });

/** One thing to look at before a month is closed. */
export const ClosingCheck = z.object({
  kind: z.enum(closingChecks),
  count: z.int(),
  amount: Minor.nullable(),
  /** Of how many, where that says something. */
  of: z.int().nullable(),
  oldest: CalendarDate.nullable(),
  /** Who it waits for, or who left it. */
  who: z.string().nullable(),
  /** The account to open for it. */
  accountId: AccountId.nullable(),
});
export type ClosingCheck = z.infer<typeof ClosingCheck>;

/** A bank account as it stands at the end of a month. */
export const ClosingAccount = z.object({
  bankAccountId: BankAccountId,
  /** The newest agreed statement that reaches the end of the month, or what is next to be agreed; null without any. */
  statement: StatementSummary.nullable(),
  /** Whether the account's statements are agreed up to the end of the month. */
  isAgreed: z.boolean(),
});
export type ClosingAccount = z.infer<typeof ClosingAccount>;

/** Who did a part of closing a month, and when. */
const Signed = z.object({ by: z.string(), at: z.string() }).nullable();

/** A month on its way to being closed. */
export const MonthClosing = z.object({
  month: z.string(),
  seenStep: Seen,
  /** Null as long as nobody has done anything. */
  state: z.enum(closingStates).nullable(),
  note: z.string(),
  prepared: Signed,
  reviewed: Signed,
  closed: Signed,
  lineCount: z.int(),
  openCount: z.int(),
  /** Income less costs of the month. */
  result: Minor,
  accounts: z.array(ClosingAccount),
  checks: z.array(ClosingCheck),
  reviewedCount: z.int(),
  /** Months around this one. */
  months: z.array(z.object({ month: z.string(), isClosed: z.boolean() })),
});
export type MonthClosing = z.infer<typeof MonthClosing>;

/** What is done about a month. */
export const ClosingAction = z.object({
  action: z.enum(['prepare', 'sendBack', 'review', 'close', 'reopen']),
  note: typedText(2_000),
  seenStep: Seen,
});
export type ClosingAction = z.infer<typeof ClosingAction>;

/** A line of the sample that a reviewer looks at. */
export const SampledLine = z.object({
  id: LineId,
  date: CalendarDate,
  text: z.string(),
  payeeId: PayeeId.nullable(),
  accountIds: z.array(AccountId),
  amount: Minor,
  /** One of the largest, or chosen at random. */
  chosen: z.enum(['size', 'random']),
  reviewedBy: z.string().nullable(),
});
export type SampledLine = z.infer<typeof SampledLine>;
export const ReviewSample = z.object({ lines: z.array(SampledLine), lineCount: z.int() });
export type ReviewSample = z.infer<typeof ReviewSample>;

export const ReviewLines = z.object({ lineIds: z.array(LineId).min(1).max(500) });
export type ReviewLines = z.infer<typeof ReviewLines>;
