import type { AgeLimit } from '@zubrell/core/closing/months';
import { accountRoles, assignableRoles } from '@zubrell/core/ledger/accountRoles';
import { demandedFields } from '@zubrell/core/ledger/demands';
import {
  accountTaxes,
  accountTypes,
  bankAccountKinds,
  costObjectKinds,
  payeeKinds,
  taxKinds,
  taxUses,
} from '@zubrell/core/ledger/kinds';
import { type TaxPart, taxSets } from '@zubrell/core/ledger/starterBooks';
import { type Leave, leaveRoles } from '@zubrell/core/people/leaves';
import { accountMakers, roles } from '@zubrell/core/people/roles';
import { z } from 'zod';
import {
  AccountId,
  CalendarDate,
  Currency,
  GivenAmount,
  GivenDate,
  Id,
  Minor,
  neededText,
  PayeeId,
  Rate,
  TaxCodeId,
  text,
  typedText,
} from './common.ts';

export const Role = z.enum(roles);
export type Role = z.infer<typeof Role>;

export const BooksListing = z.object({
  id: Id,
  name: z.string(),
  currency: z.string(),
  role: Role,
});
export type BooksListing = z.infer<typeof BooksListing>;

const name = neededText(100, 'a name is needed');

/** Lines of an address. */
const address = text(500);

/** By which the tax office knows a business. */
const taxNumber = typedText(40);

/** A country by its two letters (ISO 3166); empty where nobody has said. */
const country = z.string().regex(/^([A-Z]{2})?$/, { error: 'a country has two letters' });

/** After how many days invoices or bills are due; null where that differs. */
const TermsDays = z.int().min(0).max(365).nullable();

/** The month in which the years of books begin. */
const YearBegins = z.int().min(1).max(12);

export const NewBooks = z.object({
  name,
  currency: z
    .string()
    .trim()
    .regex(/^[A-Z]{3}$/, { error: 'the currency is three capital letters, such as EUR' }),
  /** The tax codes that the books begin with. */
  taxSet: z.enum(taxSets).default('standardAndReduced'),
  yearBegins: YearBegins.default(1),
});
export type NewBooks = z.infer<typeof NewBooks>;

export const AccountType = z.enum(accountTypes);
export type AccountType = z.infer<typeof AccountType>;

/** Fields that a coding must have to be posted, by the type of its account. */
export const Demands = z.partialRecord(AccountType, z.array(z.enum(demandedFields)));

/** To which roles, beside the owner, something is left. */
const LeaveRoles = z.array(z.enum(leaveRoles)).max(leaveRoles.length);
export const Leaves = z.object({
  setAside: LeaveRoles,
  letRulesPost: LeaveRoles,
  close: LeaveRoles,
  reopen: LeaveRoles,
} satisfies Record<Leave, z.ZodType>);

const Days = z.int().min(1).max(3_650);
export const Ages = z.object({
  suspense: Days,
  transit: Days,
  outstanding: Days,
} satisfies Record<AgeLimit, z.ZodType>);
export type Ages = z.infer<typeof Ages>;

/** How books are worked with. */
export const BooksSettings = z.object({
  name,
  /** Below the name on what is sent to customers. */
  address,
  taxNumber,
  country,
  /** Nobody works in it any more: the list leaves it out, and nothing is lost. */
  isArchived: z.boolean(),
  /** Nothing dated up to here changes. */
  lockDate: GivenDate.nullable(),
  /** A purchase of at least this much may be a fixed asset; null for no such nudge. */
  assetThreshold: GivenAmount.min(1, { error: 'an amount above zero is needed' }).nullable(),
  /** Fields that a coding must have to be posted, by the type of its account. */
  demands: Demands,
  yearBegins: YearBegins,
  /** Who may make accounts: whoever does the books, or only who owns them. */
  accountsMadeBy: z.enum(accountMakers),
  /** To which roles setting aside, letting rules post, closing and reopening are left. */
  leaves: Leaves,
  /** After how many days what waits on suspense, in transit or outstanding is too old. */
  ages: Ages,
  /** A cost of at least this much wants a receipt; null for none. */
  receiptFrom: GivenAmount.min(1, { error: 'an amount above zero is needed' }).nullable(),
  /** Whether what was done in the owner's other books is proposed here, and what is done here there. */
  usesOtherBooks: z.boolean(),
});
export type BooksSettings = z.infer<typeof BooksSettings>;

/** What is left out stays as it is. */
export const ChangeBooks = BooksSettings.partial();
export type ChangeBooks = z.infer<typeof ChangeBooks>;

/** What of a line the Desk can leave out, at a user's wish. */
export const HideableField = z.enum(['taxCodeId', 'note', 'costCentreId', 'jobId']);
export type HideableField = z.infer<typeof HideableField>;
/** The bank's own fields of a line. */
export const BankField = z.enum([
  'bankAccount',
  'reference',
  'payee',
  'type',
  'valueDate',
  'bankId',
  'chequeNumber',
  'counterparty',
  'category',
  'cardholder',
  'original',
]);
export type BankField = z.infer<typeof BankField>;

/** What a user wants to see of books. */
export const Preferences = z.object({
  hiddenFields: z.array(HideableField).default([]),
  bankFields: z
    .array(BankField)
    .default(['bankAccount', 'cardholder', 'reference', 'payee', 'type', 'valueDate', 'bankId']),
});
export type Preferences = z.infer<typeof Preferences>;

export const Account = z.object({
  id: Id,
  code: z.string(),
  name: z.string(),
  type: AccountType,
  parentId: Id.nullable(),
  role: z.enum(accountRoles).nullable(),
  /** Which tax it takes. */
  tax: z.enum(accountTaxes),
  /** Words for what goes there, to find it by. */
  purpose: z.string(),
  isOn: z.boolean(),
  /** The account that it was put together with. */
  mergedInto: Id.nullable(),
});
export type Account = z.infer<typeof Account>;

const accountCode = z
  .string()
  .trim()
  .regex(/^[0-9A-Z.-]{1,12}$/, { error: 'a code is up to 12 digits or capital letters' });

export const NewAccount = z.object({
  code: accountCode,
  name,
  type: AccountType,
  parentId: Id.nullable(),
  purpose: typedText(200).optional(),
});
export type NewAccount = z.infer<typeof NewAccount>;

/** A rate in hundredths of a percent, and from which day it holds; null for ever since. */
export const TaxRate = z.object({
  fromDate: GivenDate.nullable(),
  rate: z.int().min(0).max(10_000, { error: 'a rate is at most 100 %' }),
});

/** The box of the tax return that each part counts in; null for none. */
const Box = typedText(60).nullable();
export const TaxBoxes = z.object({
  outputNet: Box,
  outputTax: Box,
  inputNet: Box,
  inputTax: Box,
} satisfies Record<TaxPart, z.ZodType>);

export const TaxCode = z.object({
  id: Id,
  name: z.string(),
  kind: z.enum(taxKinds),
  use: z.enum(taxUses),
  /** From the oldest to the newest. */
  rates: z.array(TaxRate),
  inputAccountId: AccountId.nullable(),
  outputAccountId: AccountId.nullable(),
  /** How much of input tax comes back, in hundredths of a percent. */
  recoverable: z.int(),
  boxes: TaxBoxes,
  isOn: z.boolean(),
});
export type TaxCode = z.infer<typeof TaxCode>;

/** A tax code as it is made or changed. */
export const GivenTaxCode = z.object({
  name: neededText(40, 'a name is needed'),
  kind: TaxCode.shape.kind,
  use: TaxCode.shape.use,
  rates: z.array(TaxRate).max(50),
  inputAccountId: AccountId.nullable(),
  outputAccountId: AccountId.nullable(),
  recoverable: z.int().min(0).max(10_000),
  boxes: TaxBoxes,
  isOn: z.boolean(),
});
export type GivenTaxCode = z.infer<typeof GivenTaxCode>;

export const PayeeKind = z.enum(payeeKinds);

export const Payee = z.object({
  id: Id,
  name: z.string(),
  kind: PayeeKind,
  address: z.string(),
  taxNumber: z.string(),
  country: z.string(),
  termsDays: z.int().nullable(),
  /** An owner’s drawings, or what is between these books and another business of the owner. */
  accountId: AccountId.nullable(),
  /** Where money goes that an owner puts in. */
  capitalAccountId: AccountId.nullable(),
  isOn: z.boolean(),
  /** The payee that this one turned out to be. */
  mergedInto: Id.nullable(),
});
export type Payee = z.infer<typeof Payee>;

export const NewPayee = z.object({ name, kind: PayeeKind });
export type NewPayee = z.infer<typeof NewPayee>;

/** What is left out stays as it is. */
export const ChangePayee = z.object({
  name: name.optional(),
  kind: PayeeKind.optional(),
  address: address.optional(),
  taxNumber: taxNumber.optional(),
  country: country.optional(),
  termsDays: TermsDays.optional(),
  accountId: AccountId.nullable().optional(),
  capitalAccountId: AccountId.nullable().optional(),
  /** Makes the accounts that an owner or another business of the owner still lacks. */
  makesAccounts: z.boolean().optional(),
  isOn: z.boolean().optional(),
});
export type ChangePayee = z.infer<typeof ChangePayee>;

/** This payee turned out to be another. */
export const MergePayee = z.object({ into: Id });
export type MergePayee = z.infer<typeof MergePayee>;

/** A payee with what was posted to it. */
export const PayeeUse = z.object({
  payeeId: PayeeId,
  entryCount: z.int(),
  /** The account it went to most; null where it was never used. */
  usualAccountId: AccountId.nullable(),
  /** The tax code it went there with last. */
  usualTaxCodeId: TaxCodeId.nullable(),
  lastDate: CalendarDate.nullable(),
});
export type PayeeUse = z.infer<typeof PayeeUse>;

/** How often an account was coded to, and with which tax code last. */
export const AccountUse = z.object({
  accountId: AccountId,
  times: z.int(),
  lastTaxCodeId: TaxCodeId.nullable(),
});
export type AccountUse = z.infer<typeof AccountUse>;

/** What is left out stays as it is. */
export const ChangeAccount = z.object({
  code: accountCode.optional(),
  name: name.optional(),
  /** The account below which it stands; null for none. */
  parentId: Id.nullable().optional(),
  purpose: typedText(200).optional(),
  /** Which tax it takes from now on. */
  tax: z.enum(accountTaxes).optional(),
  /** What the program uses it for from now on, instead of the account that had this. */
  role: z.enum(assignableRoles).nullable().optional(),
  isOn: z.boolean().optional(),
});
export type ChangeAccount = z.infer<typeof ChangeAccount>;

/** This account is put together with another of its type. */
export const MergeAccount = z.object({ into: Id });
export type MergeAccount = z.infer<typeof MergeAccount>;

export const BankAccountKind = z.enum(bankAccountKinds);

/** How a bank account's statements follow each other. */
export const Cycle = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('month') }),
  z.object({ kind: z.literal('day'), day: z.int().min(1).max(31) }),
  z.object({ kind: z.literal('any') }),
]);
export type Cycle = z.infer<typeof Cycle>;

/** What cardholders are called, by how files name them. */
export const HolderNames = z.record(typedText(200), neededText(100, 'give the cardholder a name'));
export type HolderNames = z.infer<typeof HolderNames>;

/** How much of what a bank account holds is a client’s. */
export const ClientShare = z.object({
  clientId: PayeeId,
  amount: GivenAmount.positive({ error: 'an amount above zero is needed' }),
});
export type ClientShare = z.infer<typeof ClientShare>;

export const BankAccount = z.object({
  id: Id,
  name: z.string(),
  kind: BankAccountKind,
  bank: z.string().nullable(),
  number: z.string().nullable(),
  /** ISO 4217: that of the books, or another. */
  currency: z.string(),
  accountId: AccountId,
  cycle: Cycle,
  holderNames: HolderNames,
  closedTo: CalendarDate.nullable(),
  /** Null until an opening balance is posted. */
  opening: z
    .object({
      date: CalendarDate,
      amount: Minor,
      /** Of clients’ money: whose it is, as far as that was said. */
      clients: z.array(ClientShare),
    })
    .nullable(),
  /** First and last line, null while there is none. */
  firstDate: CalendarDate.nullable(),
  lastDate: CalendarDate.nullable(),
});
export type BankAccount = z.infer<typeof BankAccount>;

export const NewBankAccount = z.object({
  name,
  kind: BankAccountKind,
  bank: typedText(100).nullable(),
  number: typedText(40).nullable(),
  /** Where it is not that of the books. */
  currency: Currency.nullable().optional(),
});
export type NewBankAccount = z.infer<typeof NewBankAccount>;

export const OpeningBalance = z.object({
  date: GivenDate,
  amount: GivenAmount,
  rate: Rate.nullable().optional(),
  /** Of clients’ money: whose it is, as far as that is known. */
  clients: z.array(ClientShare).max(1_000).optional(),
});
export type OpeningBalance = z.infer<typeof OpeningBalance>;

/** Whose money an opening balance is. */
export const NameClients = OpeningBalance.pick({ clients: true }).required();
export type NameClients = z.infer<typeof NameClients>;

/** What costs are for, beside their accounts: cost centres and jobs. */
export const CostObject = z.object({
  id: Id,
  kind: z.enum(costObjectKinds),
  name: z.string(),
  isOn: z.boolean(),
});
export type CostObject = z.infer<typeof CostObject>;
export const NewCostObject = z.object({ kind: CostObject.shape.kind, name });
export type NewCostObject = z.infer<typeof NewCostObject>;

/** All that the screens need to know of books to name things. */
export const BooksSetup = z.object({
  books: BooksListing.extend({
    ...BooksSettings.shape,
    /** What the sender wants to see. */
    preferences: Preferences,
    /** The last day of the newest period whose tax was reported; null where none was. */
    taxReportedTo: CalendarDate.nullable(),
    /** Who owns the books, by name. */
    owners: z.array(z.string()),
  }),
  accounts: z.array(Account),
  taxCodes: z.array(TaxCode),
  payees: z.array(Payee),
  costObjects: z.array(CostObject),
  bankAccounts: z.array(BankAccount),
});
export type BooksSetup = z.infer<typeof BooksSetup>;
