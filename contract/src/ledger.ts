import { legRoles } from '@zubrell/core/ledger/buildLegs';
import { documentKinds } from '@zubrell/core/ledger/documents';
import { entryKinds } from '@zubrell/core/ledger/entries';
import { candidateKinds } from '@zubrell/core/pair/pairing';
import { z } from 'zod';
import { CodingPart } from './coding.ts';
import {
  AccountId,
  BankAccountId,
  CalendarDate,
  Cursor,
  DocumentId,
  EntryId,
  Exchange,
  GivenAmount,
  GivenDate,
  Id,
  JournalPlanId,
  LegId,
  LineId,
  Minor,
  PayeeId,
  page,
  Rate,
  Seen,
  TaxCodeId,
  text,
  typedText,
} from './common.ts';
import { JournalLegs } from './journals.ts';
import { KeptAttachment } from './questions.ts';

/** Balances of all accounts, debit positive. */
export const Balances = z.object({
  balances: z.array(z.object({ accountId: AccountId, amount: Minor })),
});
export type Balances = z.infer<typeof Balances>;

/** A leg as lists of the ledger show it. */
export const LedgerRow = z.object({
  entryId: EntryId,
  legId: LegId,
  accountId: AccountId,
  date: CalendarDate,
  /** The day that it is of, where that was closed and it counts on a later one: it is late. */
  bankDate: CalendarDate.nullable(),
  /** −1 where an entry of a closed period was taken back, 1 where it came again; 0 for the entry itself. */
  turned: z.int(),
  payeeId: PayeeId.nullable(),
  /** The bank's wording or what the entry is. */
  text: z.string(),
  /** The entry's other accounts, but for those its tax went to. */
  otherAccountIds: z.array(AccountId),
  /** On a bank account: with how many lines its leg is tied. */
  lineCount: z.int(),
  kind: z.enum(entryKinds),
  /** Of a cheque or document, or what else it is found by. */
  number: z.string().nullable(),
  /** What the bank said beside the wording. */
  reference: z.string().nullable(),
  /** How it was paid, as the bank calls it. */
  method: z.string().nullable(),
  note: z.string().nullable(),
  /** The bank's line behind it. */
  lineId: LineId.nullable(),
  /** Debit positive. */
  amount: Minor,
  /** Of its account after it; null where the list is of many accounts. */
  balance: Minor.nullable(),
  /** The same two on a bank account in another currency, in that; null on others. */
  own: Minor.nullable(),
  ownBalance: Minor.nullable(),
});
export type LedgerRow = z.infer<typeof LedgerRow>;

/** Legs, and what all that fit come to, also those of later pages. Credits are negative. */
export const LedgerRows = page(LedgerRow).extend({ count: z.int(), debits: Minor, credits: Minor });
export type LedgerRows = z.infer<typeof LedgerRows>;

/** An entry that was found by what it says: its number, reference, note or payee. */
export const FoundEntry = z.object({
  entryId: EntryId,
  /** One of its accounts, in whose register it is shown. */
  accountId: AccountId,
  date: CalendarDate,
  number: z.string().nullable(),
  reference: z.string().nullable(),
  /** The bank's wording, or the note of the entry. */
  text: z.string(),
  payee: z.string().nullable(),
  amount: Minor,
});
export type FoundEntry = z.infer<typeof FoundEntry>;

/** Which legs are wanted. */
const within = {
  from: GivenDate.optional(),
  to: GivenDate.optional(),
  /** In wording, note, number, reference or payee; or an amount. */
  search: text(200).optional(),
  cursor: Cursor.optional(),
};
export const RegisterQuery = z.object(within);

/** In which order legs come: the newest first, as they happened, or account by account. */
export const ledgerOrders = ['newest', 'date', 'account'] as const;
export const LedgerQuery = z.object({
  ...within,
  order: z.enum(ledgerOrders).default('newest'),
  accountId: AccountId.optional(),
  /** `none` for what has none; the same for the two below. */
  payeeId: z.union([PayeeId, z.literal('none')]).optional(),
  costCentreId: z.union([Id, z.literal('none')]).optional(),
  jobId: z.union([Id, z.literal('none')]).optional(),
  /** Only income, costs, or neither of the two. */
  of: z.enum(['income', 'expense', 'other']).optional(),
  /** So many at once. */
  limit: z.coerce.number().int().min(1).max(2_000).optional(),
});
export type LedgerQuery = z.infer<typeof LedgerQuery>;

const typed = { date: GivenDate, note: text(1_000).nullable() };
/** What is paid by or to somebody. */
const paid = {
  ...typed,
  amount: GivenAmount.positive({ error: 'an amount above zero is needed' }),
  /** Of a cheque, or what else it is found by. */
  number: typedText(50).nullable(),
  payeeId: PayeeId.nullable(),
  /** The documents of the payee that it settles, each with how much of it, signed like what is open. */
  settles: z
    .array(z.object({ documentId: DocumentId, amount: GivenAmount }))
    .max(200)
    .optional(),
  /** What is more than the documents stays as credit with the payee. */
  leavesCredit: z.boolean().optional(),
  /** What else the amount is for; none where documents and credit take all of it. */
  parts: z.array(CodingPart).max(100).readonly(),
};
/** The exchange rate that was typed, where the bank account is in another currency; else that of its day. */
const typedRate = Rate.nullable().optional();

/** An entry as it is typed. Amounts are positive; the kind says which way the money goes. */
export const HandEntry = z.discriminatedUnion('kind', [
  z.object({
    kind: z.enum(['payment', 'receipt', 'cheque', 'deposit']),
    ...paid,
    bankAccountId: BankAccountId,
    rate: typedRate,
  }),
  z.object({
    kind: z.literal('paidPrivately'),
    ...paid,
    /** The owner who paid; null where the books have one account for all. */
    ownerId: PayeeId.nullable(),
  }),
  z.object({
    kind: z.literal('transfer'),
    ...typed,
    bankAccountId: BankAccountId,
    toBankAccountId: BankAccountId,
    amount: GivenAmount.positive({ error: 'an amount above zero is needed' }),
    rate: typedRate,
    /** Whose money moves, where one of the two holds clients’ money. */
    clientId: PayeeId.nullable().optional(),
  }),
  z.object({
    kind: z.literal('journal'),
    ...typed,
    number: typedText(50).nullable(),
    payeeId: PayeeId.nullable(),
    /** The bank will report what it does to a bank account; else that is unexplained in the proof. */
    isAwaited: z.boolean().optional(),
    legs: JournalLegs,
  }),
]);
export type HandEntry = z.infer<typeof HandEntry>;

export const EnterByHand = z.object({
  entry: HandEntry,
  /** Of a journal: the day on which it is reversed. */
  reverseOn: GivenDate.nullable().optional(),
});
export type EnterByHand = z.infer<typeof EnterByHand>;

/** Another entry, with its date. */
const OtherEntry = z.object({ id: EntryId, date: CalendarDate });

/** A line that something is paired with. */
const PairedLine = z.object({
  id: Id,
  date: CalendarDate,
  amount: Minor,
  description: z.string(),
});

export const Entry = z.object({
  id: Id,
  /** As of which step it is told. */
  seenStep: Seen,
  date: CalendarDate,
  /** The day that it is of, where that was closed and it counts on a later one: it is late. */
  bankDate: CalendarDate.nullable(),
  kind: z.enum(entryKinds),
  payeeId: PayeeId.nullable(),
  note: z.string().nullable(),
  number: z.string().nullable(),
  /** What the bank said beside the wording. */
  reference: z.string().nullable(),
  /** How it was paid, as the bank calls it. */
  method: z.string().nullable(),
  /** As it was typed, where that was by hand. */
  content: HandEntry.nullable(),
  /** The other currency that it is in, and the rate by which it was taken into the books. */
  exchange: Exchange.nullable(),
  isVoid: z.boolean(),
  step: z.int(),
  legs: z.array(
    z.object({
      id: Id,
      accountId: AccountId,
      amount: Minor,
      /** What it is in the other currency, where the entry is in one. */
      original: Minor.nullable(),
      taxCodeId: TaxCodeId.nullable(),
      role: z.enum(legRoles),
      costCentreId: Id.nullable(),
      jobId: Id.nullable(),
      isRecharged: z.boolean(),
      /** Whose money it is, on a bank account that holds clients’ money. */
      clients: z.array(z.object({ clientId: PayeeId, amount: Minor })),
    }),
  ),
  /** Receipts kept with it. */
  attachments: z.array(KeptAttachment),
  /** The lines of the bank that it was made from or is paired with. */
  lines: z.array(PairedLine),
  /** The document that it is the entry of. */
  document: z
    .object({ id: Id, kind: z.enum(documentKinds), number: z.string().nullable() })
    .nullable(),
  /** The documents that it pays. */
  pays: z.array(z.object({ id: Id, kind: z.enum(documentKinds), number: z.string().nullable() })),
  /** The entry that it was put in the place of, and the one that was put in its place. */
  replaces: Id.nullable(),
  replacedBy: Id.nullable(),
  /** The entry that it reverses, and the one that reverses it. */
  reverses: OtherEntry.nullable(),
  reversedBy: OtherEntry.nullable(),
  /** The recurring journal that it was posted for. */
  plan: z.object({ id: JournalPlanId, name: z.string(), date: CalendarDate }).nullable(),
  who: z.string(),
  at: z.string(),
});
export type Entry = z.infer<typeof Entry>;

/** An entry that the bank has not reported. */
export const OutstandingEntry = z.object({
  legId: LegId,
  entryId: EntryId,
  kind: z.enum(candidateKinds),
  bankAccountId: BankAccountId,
  date: CalendarDate,
  amount: Minor,
  number: z.string().nullable(),
  payee: z.string().nullable(),
  /** Days since its date. */
  age: z.int(),
  /** So old that it may never come: a cheque, after half a year. */
  isStale: z.boolean(),
});
export type OutstandingEntry = z.infer<typeof OutstandingEntry>;
export const Outstanding = z.object({ entries: z.array(OutstandingEntry) });
export type Outstanding = z.infer<typeof Outstanding>;

/** What a file of entries or documents brought, or why it brought nothing. */
export const Imported = z.object({
  step: z.int().nullable(),
  words: z.string(),
  count: z.int(),
  problems: z.array(z.object({ row: z.int(), message: z.string() })),
  /** Payees that the file names and that are not in the books. */
  newPayees: z.array(z.string()),
});
export type Imported = z.infer<typeof Imported>;

export const ImportRecords = z.object({
  text: text(5_000_000),
  /** Make the payees that are not there. */
  makePayees: z.boolean(),
});
