import { markKinds } from '@zubrell/core/propose/habit/marks';
import { separatorKinds } from '@zubrell/core/propose/habit/separators';
import { decisionSources } from '@zubrell/core/propose/proposal';
import { z } from 'zod';
import {
  AccountId,
  BankAccountId,
  CalendarDate,
  Cursor,
  Id,
  Minor,
  PayeeId,
  page,
  text,
} from './common.ts';

/** What tells apart the accounts of one habit. */
export const HabitSeparator = z.object({
  by: z.enum(separatorKinds),
  /** The word or the number. */
  word: z.string().nullable(),
  /** An amount in minor units, a day of the month, or the last day of the week, from 0 for Monday. */
  limit: z.int().nullable(),
  /** The first day of the week. */
  from: z.int().nullable(),
  bankAccountId: BankAccountId.nullable(),
  /** How much of the uncertainty it takes away, from 0 to 1. */
  gain: z.number(),
});

/** What was learned from decisions on lines of one payee, or where none was named on look-alikes. */
export const Habit = z.object({
  /** Names it among the habits of the books; a payee's id, or the look-alikes' words. */
  key: z.string(),
  payeeId: PayeeId.nullable(),
  /** A name made of the wordings that came most. */
  name: z.string(),
  stems: z.array(z.string()),
  /** How many decisions it rests on, by account, the most first. */
  accounts: z.array(z.object({ accountId: AccountId, times: z.int() })),
  times: z.int(),
  separators: z.array(HabitSeparator),
  /** Of its proposals that somebody looked at, those whose account was kept. */
  kept: z.int(),
  looked: z.int(),
  /** Posted unread, in sweeps. */
  unread: z.int(),
  open: z.int(),
  lastDate: CalendarDate.nullable(),
  /** Nothing is learned from it any more. */
  markId: Id.nullable(),
});
export type Habit = z.infer<typeof Habit>;
export const HabitQuery = z.object({
  /** What stands in the name, where there are too many to list all at once. */
  search: text(200).optional(),
  cursor: Cursor.optional(),
});
export type HabitQuery = z.infer<typeof HabitQuery>;
/** Habits, those with the most lines first, with all that are blocked: of very many some at a time. */
export const Habits = page(Habit).extend({
  /** How many there are. */
  total: z.int(),
  ruleCount: z.int(),
});
export type Habits = z.infer<typeof Habits>;

/** A habit to be forgotten, or not to be learned at all. */
export const MarkHabit = z.object({
  kind: z.enum(markKinds),
  payeeId: PayeeId.nullable(),
  stems: z.array(text(500)).max(2_000),
});
export type MarkHabit = z.infer<typeof MarkHabit>;

/** Lines decided so, as the evidence of a habit. */
export const Evidence = z.object({
  lines: z.array(
    z.object({
      id: Id,
      date: CalendarDate,
      amount: Minor,
      description: z.string(),
      accountId: AccountId,
      /** How much it says, beside the others; they add up to 1. */
      share: z.number(),
    }),
  ),
});
export type Evidence = z.infer<typeof Evidence>;

/** The record of one source in one month. */
export const RecordMonth = z.object({
  /** `2026-03` */
  month: z.string(),
  source: z.enum(decisionSources),
  /** Lines decided in that month that it proposed for. */
  lines: z.int(),
  /** Of them, those that somebody looked at, and of those the ones kept. */
  looked: z.int(),
  kept: z.int(),
  /** Posted unseen: in sweeps, or at once by a rule. */
  unseen: z.int(),
});
export type RecordMonth = z.infer<typeof RecordMonth>;
/** How much work the lines of a month were. */
export const MonthWork = z.object({
  /** `2026-03` */
  month: z.string(),
  /** Lines that are coded. */
  lines: z.int(),
  /** Of them, those that nobody touched one by one: swept as they were proposed, or posted by a rule at once. */
  untouched: z.int(),
  /** Keys and clicks for each line, corrections too; null where nobody's browser counted them. */
  presses: z.number().nullable(),
});
export type MonthWork = z.infer<typeof MonthWork>;
export const CodingRecord = z.object({
  months: z.array(RecordMonth),
  work: z.array(MonthWork),
  /** From which sureness on habits are Ready now, by the books' own record. */
  readyFrom: z.number(),
});
export type CodingRecord = z.infer<typeof CodingRecord>;
