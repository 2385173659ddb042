import { z } from 'zod';

const Day = z.string().regex(/^\d{4}-\d\d-\d\d$/);

/** A payment as the bank knows it. */
const BankItem = z.object({
  id: z.string(),
  /** The day it is booked. */
  date: Day,
  /** The day it is announced before that; null where it is booked at once. */
  announced: Day.nullable(),
  /** In minor units, in is positive. */
  amount: z.int(),
  /** What is announced, where that differs. */
  announcedAmount: z.int().nullable(),
  wording: z.string(),
  reference: z.string().nullable(),
});
export type BankItem = z.infer<typeof BankItem>;

const Account = z.object({
  id: z.string(),
  name: z.string(),
  number: z.string(),
  kind: z.enum(['current', 'savings', 'card']),
  currency: z.string(),
  /** The balance before the first item. */
  opening: z.int(),
  /** In which format its lines are handed out. */
  format: z.enum(['camt053', 'ofx']),
  items: z.array(BankItem),
});
export type Account = z.infer<typeof Account>;

const Customer = z.object({
  user: z.string(),
  secret: z.string(),
  name: z.string(),
  accounts: z.array(Account),
});
export type Customer = z.infer<typeof Customer>;

const Consent = z.object({
  token: z.string(),
  user: z.string(),
  accountIds: z.array(z.string()),
  /** The last day on which it holds. */
  expires: Day,
});
export type Consent = z.infer<typeof Consent>;

/** Everything the bank knows: what it starts with. */
export const BankRecords = z.object({
  bankName: z.string(),
  customers: z.array(Customer),
  consents: z.array(Consent),
});
export type BankRecords = z.infer<typeof BankRecords>;
