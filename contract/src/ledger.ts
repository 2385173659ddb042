import { z } from 'zod';
import { CalendarDate, Id, Minor, page } from './common.ts';

/** Balances of all accounts, debit positive. */
export const Balances = z.object({
  balances: z.array(z.object({ accountId: Id, amount: Minor, entryCount: z.int() })),
});
export type Balances = z.infer<typeof Balances>;

/** One leg in an account's register, with the balance after it. */
export const RegisterRow = z.object({
  entryId: Id,
  legId: Id,
  date: CalendarDate,
  payeeId: Id.nullable(),
  /** The bank's wording or what the entry is. */
  text: z.string(),
  /** The entry's other accounts, but for those its tax went to. */
  otherAccountIds: z.array(Id),
  amount: Minor,
  balance: Minor,
});
export type RegisterRow = z.infer<typeof RegisterRow>;
export const Register = page(RegisterRow);
export type Register = z.infer<typeof Register>;

export const Entry = z.object({
  id: Id,
  date: CalendarDate,
  kind: z.enum(['line', 'opening']),
  payeeId: Id.nullable(),
  note: z.string().nullable(),
  isVoid: z.boolean(),
  step: z.int(),
  legs: z.array(
    z.object({
      id: Id,
      accountId: Id,
      amount: Minor,
      taxCodeId: Id.nullable(),
      role: z.enum(['bank', 'base', 'tax']),
      costCentreId: Id.nullable(),
      jobId: Id.nullable(),
      isRecharged: z.boolean(),
    }),
  ),
  line: z.object({ id: Id, date: CalendarDate, amount: Minor, description: z.string() }).nullable(),
  who: z.string(),
  at: z.string(),
});
export type Entry = z.infer<typeof Entry>;
