import { usualAges } from '@zubrell/core/closing/months';
import type { AccountId, BooksId, TaxCodeId } from '@zubrell/core/ids';
import { accountRoles } from '@zubrell/core/ledger/accountRoles';
import {
  accountTaxes,
  accountTypes,
  bankAccountKinds,
  costObjectKinds,
  payeeKinds,
  taxKinds,
  taxUses,
} from '@zubrell/core/ledger/kinds';
import { usualLeaves } from '@zubrell/core/people/leaves';
import { accountMakers } from '@zubrell/core/people/roles';
import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  check,
  date,
  foreignKey,
  integer,
  jsonb,
  numeric,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';

/**
 * False once the step that made the thing was undone: it is neither found nor chosen, but what is void
 * may still name it, and a redo brings the same one back.
 */
const isHere = boolean('is_here').notNull().default(true);

/** One business's set of accounts. */
export const books = pgTable('books', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  currency: text().notNull(),
  /** Below the name on what is sent to customers. */
  address: text().notNull().default(''),
  /** By which the tax office knows the business. */
  taxNumber: text('tax_number').notNull().default(''),
  /** ISO 3166, two letters; empty where nobody has said. */
  country: text().notNull().default(''),
  /** Nothing dated up to here changes. */
  lockDate: date('lock_date'),
  /** A purchase of at least this much may be a fixed asset; null for no such nudge. */
  assetThreshold: bigint('asset_threshold', { mode: 'number' }).default(80_000),
  /** Fields that a coding must have to be posted, by the type of its account. */
  demands: jsonb().notNull().default({}),
  /** The month in which their years begin, 1 to 12. */
  yearBegins: integer('year_begins').notNull().default(1),
  /** Who may make accounts: whoever does the books, or only who owns them. */
  accountsMadeBy: text('accounts_made_by', { enum: accountMakers }).notNull().default('bookkeeper'),
  /** Whether the owner's other books may be asked what they did, and may ask these. */
  usesOtherBooks: boolean('uses_other_books').notNull().default(false),
  /** After how many days what waits on suspense, in transit or outstanding is too old. */
  ages: jsonb().notNull().default(usualAges),
  /** A cost of at least this much wants a receipt; null for none. */
  receiptFrom: bigint('receipt_from', { mode: 'number' }).default(15_000),
  /** Nobody works in it any more: it is left out of the list, and nothing is lost. */
  isArchived: boolean('is_archived').notNull().default(false),
  /** To which roles setting aside, letting rules post, closing and reopening are left. */
  leaves: jsonb().notNull().default(usualLeaves),
  /** The number of the newest step; each command adds one. */
  lastStep: bigint('last_step', { mode: 'number' }).notNull().default(0),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
});

/** The chart of accounts. */
export const accounts = pgTable(
  'accounts',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    code: text().notNull(),
    name: text().notNull(),
    type: text({ enum: accountTypes }).notNull(),
    parentId: uuid('parent_id'),
    /** What the program itself uses it for: opening equity, tax, drawings and so on. */
    role: text({ enum: accountRoles }),
    /** Which tax it takes. */
    tax: text({ enum: accountTaxes }).notNull().default('byType'),
    /** Words for what goes there, to find it by. */
    purpose: text().notNull().default(''),
    isOn: boolean('is_on').notNull().default(true),
    /** The account that it was put together with; legs keep their own, and show that one. */
    mergedInto: uuid('merged_into'),
    isHere,
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    uniqueIndex('accounts_code').on(table.booksId, table.code).where(sql`${table.isHere}`),
    uniqueIndex('accounts_role')
      .on(table.booksId, table.role)
      .where(sql`${table.isHere} and ${table.role} is not null`),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
    foreignKey({
      columns: [table.booksId, table.parentId],
      foreignColumns: [table.booksId, table.id],
    }),
    foreignKey({
      columns: [table.booksId, table.mergedInto],
      foreignColumns: [table.booksId, table.id],
    }),
  ],
);

/** Tax codes, named by what they are. */
export const taxCodes = pgTable(
  'tax_codes',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    name: text().notNull(),
    kind: text({
      enum: taxKinds,
    }).notNull(),
    use: text({ enum: taxUses }).notNull().default('both'),
    inputAccountId: uuid('input_account_id').$type<AccountId>(),
    outputAccountId: uuid('output_account_id').$type<AccountId>(),
    /** How much of input tax comes back, in hundredths of a percent. */
    recoverable: integer().notNull().default(10_000),
    /** The boxes of the tax return that its parts count in. */
    boxes: jsonb().notNull().default({}),
    position: integer().notNull(),
    isOn: boolean('is_on').notNull().default(true),
    isHere,
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    uniqueIndex('tax_codes_name').on(table.booksId, table.name).where(sql`${table.isHere}`),
    foreignKey({
      columns: [table.booksId, table.inputAccountId],
      foreignColumns: [accounts.booksId, accounts.id],
    }),
    foreignKey({
      columns: [table.booksId, table.outputAccountId],
      foreignColumns: [accounts.booksId, accounts.id],
    }),
  ],
);

/** The rate of a tax code from a date on, in hundredths of a percent. */
export const taxRates = pgTable(
  'tax_rates',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    taxCodeId: uuid('tax_code_id').$type<TaxCodeId>().notNull(),
    fromDate: date('from_date').notNull(),
    rate: integer().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.taxCodeId, table.fromDate] }),
    foreignKey({
      columns: [table.booksId, table.taxCodeId],
      foreignColumns: [taxCodes.booksId, taxCodes.id],
    }),
  ],
);

/** Who is paid or pays. */
export const payees = pgTable(
  'payees',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    name: text().notNull(),
    /** The name as names are compared, see `nameKey`. */
    nameKey: text('name_key').notNull(),
    kind: text({
      enum: payeeKinds,
    }).notNull(),
    address: text().notNull().default(''),
    taxNumber: text('tax_number').notNull().default(''),
    country: text().notNull().default(''),
    /** After how many days its invoices or bills are due; null where that differs. */
    termsDays: integer('terms_days'),
    /** An owner's drawings, or what is between these books and another business of the owner. */
    accountId: uuid('account_id').$type<AccountId>(),
    /** Where money goes that an owner puts in. */
    capitalAccountId: uuid('capital_account_id').$type<AccountId>(),
    isOn: boolean('is_on').notNull().default(true),
    /** The payee that this one turned out to be; entries keep their own, and show that one. */
    mergedInto: uuid('merged_into'),
    isHere,
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    uniqueIndex('payees_name').on(table.booksId, table.nameKey).where(sql`${table.isHere}`),
    foreignKey({
      columns: [table.booksId, table.accountId],
      foreignColumns: [accounts.booksId, accounts.id],
    }),
    foreignKey({
      columns: [table.booksId, table.capitalAccountId],
      foreignColumns: [accounts.booksId, accounts.id],
    }),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
    foreignKey({
      columns: [table.booksId, table.mergedInto],
      foreignColumns: [table.booksId, table.id],
    }),
  ],
);

/** What costs are for, beside their accounts. */
export const costObjects = pgTable(
  'cost_objects',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    kind: text({ enum: costObjectKinds }).notNull(),
    name: text().notNull(),
    /** The name as names are compared, see `nameKey`. */
    nameKey: text('name_key').notNull(),
    isOn: boolean('is_on').notNull().default(true),
    isHere,
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    uniqueIndex('cost_objects_name')
      .on(table.booksId, table.kind, table.nameKey)
      .where(sql`${table.isHere}`),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

/** Current, savings, card and cash accounts, each tied to one ledger account. */
export const bankAccounts = pgTable(
  'bank_accounts',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    name: text().notNull(),
    kind: text({ enum: bankAccountKinds }).notNull(),
    bank: text(),
    number: text(),
    /** Where it is not that of the books. */
    currency: text(),
    accountId: uuid('account_id').$type<AccountId>().notNull(),
    /** Up to here its statements are closed. */
    closedTo: date('closed_to'),
    /** What cardholders are called, by how files name them. */
    holderNames: jsonb('holder_names').notNull().default({}),
    /** How its statements follow each other. */
    cycle: jsonb().notNull().default({ kind: 'month' }),
    isHere,
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    uniqueIndex('bank_accounts_account')
      .on(table.booksId, table.accountId)
      .where(sql`${table.isHere}`),
    uniqueIndex('bank_accounts_number').on(table.booksId, table.number).where(sql`${table.isHere}`),
    foreignKey({
      columns: [table.booksId, table.accountId],
      foreignColumns: [accounts.booksId, accounts.id],
    }),
  ],
);

/** How much of the books' currency one unit of another was worth on a day. */
export const exchangeRates = pgTable(
  'exchange_rates',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    currency: text().notNull(),
    date: date().notNull(),
    rate: numeric({ precision: 21, scale: 12 }).notNull(),
    isHere,
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    uniqueIndex('exchange_rates_day')
      .on(table.booksId, table.currency, table.date)
      .where(sql`${table.isHere}`),
    check('exchange_rates_above_zero', sql`${table.rate} > 0`),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);
