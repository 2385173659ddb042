import type {
  AccountId,
  BooksId,
  DecisionId,
  DocumentId,
  EntryId,
  JournalPlanId,
  LegId,
  LineId,
  PayeeId,
  RuleId,
  TaxCodeId,
} from '@zubrell/core/ids';
import { legRoles } from '@zubrell/core/ledger/buildLegs';
import { decisionKinds, postedWays } from '@zubrell/core/ledger/decisions';
import { documentKinds, documentSides } from '@zubrell/core/ledger/documents';
import { entryKinds } from '@zubrell/core/ledger/entries';
import { keptOutReasons } from '@zubrell/core/ledger/excludeReasons';
import { taxSides } from '@zubrell/core/ledger/kinds';
import { rhythms } from '@zubrell/core/ledger/recurring';
import { proposalSources } from '@zubrell/core/propose/proposal';
import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  check,
  date,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  smallint,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { accounts, bankAccounts, costObjects, payees, taxCodes } from './books.ts';
import { lines } from './lines.ts';

/** Journals that recur; what was posted of them are entries. */
export const journalPlans = pgTable(
  'journal_plans',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().$type<JournalPlanId>().notNull(),
    name: text().notNull(),
    payeeId: uuid('payee_id').$type<PayeeId>(),
    note: text(),
    /** Debit positive. */
    legs: jsonb().notNull(),
    rhythm: text({ enum: rhythms }).notNull(),
    startDate: date('start_date').notNull(),
    endDate: date('end_date'),
    isReversing: boolean('is_reversing').notNull(),
    /** Dates that it is not posted on. */
    skipped: jsonb().notNull().default([]),
    isHere: boolean('is_here').notNull().default(true),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    foreignKey({
      columns: [table.booksId, table.payeeId],
      foreignColumns: [payees.booksId, payees.id],
    }),
  ],
);

/** Balanced journal entries; voided, never deleted. */
export const entries = pgTable(
  'entries',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    date: date().notNull(),
    kind: text({ enum: entryKinds }).notNull(),
    payeeId: uuid('payee_id').$type<PayeeId>(),
    /** The bank account whose opening balance this is; it has at most one in force. */
    openingOf: uuid('opening_of'),
    note: text(),
    /** Of a cheque, or what else it is found by. */
    number: text(),
    /** What the bank said beside the wording, where a line made it: the reference, and how it was paid. */
    reference: text(),
    method: text(),
    /** What was entered by hand, to be changed again; null where a line or document made it. */
    content: jsonb(),
    /** The other currency it is in, and the rate at which it was taken into the books. */
    exchange: jsonb(),
    /** The entry that this one was put in the place of. */
    replaces: uuid(),
    /** The entry that this one reverses. */
    reverses: uuid(),
    /** The recurring journal that it was posted for, and on which of its dates. */
    planId: uuid('plan_id').$type<JournalPlanId>(),
    planDate: date('plan_date'),
    isVoid: boolean('is_void').notNull().default(false),
    /** Whether it counts on its own date; what became of it after that was closed, its late turns say. */
    isCounted: boolean('is_counted').notNull().default(true),
    /** The day of what it was made for, where that was closed and it counts on the first open day: it is late. */
    bankDate: date('bank_date'),
    step: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('entries_date').on(table.booksId, table.date),
    index('entries_late')
      .on(table.booksId, table.bankDate)
      .where(sql`${table.bankDate} is not null`),
    index('entries_step').on(table.booksId, table.step),
    index('entries_uncounted').on(table.booksId, table.date).where(sql`not ${table.isCounted}`),
    index('entries_valuation').on(table.booksId).where(sql`${table.kind} = 'valuation'`),
    index('entries_by_hand').on(table.booksId).where(sql`${table.content} is not null`),
    // Most entries are posted from lines and say nothing themselves.
    index('entries_said')
      .on(table.booksId, table.date)
      .where(
        sql`coalesce(${table.note}, ${table.number}, ${table.reference}, ${table.method}) is not null`,
      ),
    uniqueIndex('entries_one_opening')
      .on(table.booksId, table.openingOf)
      .where(sql`not ${table.isVoid}`),
    uniqueIndex('entries_one_reversal')
      .on(table.booksId, table.reverses)
      .where(sql`not ${table.isVoid} and ${table.reverses} is not null`),
    uniqueIndex('entries_one_of_plan')
      .on(table.booksId, table.planId, table.planDate)
      .where(sql`not ${table.isVoid} and ${table.planId} is not null`),
    check('entries_plan', sql`(${table.planId} is null) = (${table.planDate} is null)`),
    check('entries_opening', sql`(${table.kind} = 'opening') = (${table.openingOf} is not null)`),
    foreignKey({
      columns: [table.booksId, table.reverses],
      foreignColumns: [table.booksId, table.id],
      name: 'entries_reverses',
    }),
    foreignKey({
      columns: [table.booksId, table.planId],
      foreignColumns: [journalPlans.booksId, journalPlans.id],
    }),
    foreignKey({
      columns: [table.booksId, table.openingOf],
      foreignColumns: [bankAccounts.booksId, bankAccounts.id],
    }),
    foreignKey({
      columns: [table.booksId, table.payeeId],
      foreignColumns: [payees.booksId, payees.id],
    }),
  ],
);

/** An entry in a closed period that was taken back, or came again: on the first open day, never on its own. */
export const lateTurns = pgTable(
  'late_turns',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    entryId: uuid('entry_id').$type<EntryId>().notNull(),
    date: date().notNull(),
    /** 1 where it came again, −1 where it was taken back. */
    sign: smallint().notNull(),
    step: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.entryId, table.date, table.step] }),
    check('late_turns_sign', sql`${table.sign} in (1, -1)`),
    foreignKey({
      columns: [table.booksId, table.entryId],
      foreignColumns: [entries.booksId, entries.id],
    }),
  ],
);

/**
 * What moved on each account on each day, by the legs' own accounts and what the tax return counts them by: kept by the
 * database, from entries, their late turns and legs alone.
 */
export const movedDays = pgTable(
  'moved_days',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    accountId: uuid('account_id').$type<AccountId>().notNull(),
    date: date().notNull(),
    /** Whether it is tax, not what was taxed. */
    isTax: boolean('is_tax').notNull(),
    /** All zeros for none. */
    taxCodeId: uuid('tax_code_id').notNull(),
    /** Empty for none. */
    taxSide: text('tax_side').notNull(),
    /** How many movements; where there is none left, the amounts are zero. */
    count: integer().notNull(),
    amount: bigint({ mode: 'number' }).notNull(),
    /** What of the amount is debits. */
    debits: bigint({ mode: 'number' }).notNull(),
    /** The amount in the currency of the bank account. */
    own: bigint({ mode: 'number' }).notNull(),
    taxable: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({
      name: 'moved_days_pk',
      columns: [
        table.booksId,
        table.accountId,
        table.date,
        table.isTax,
        table.taxCodeId,
        table.taxSide,
      ],
    }),
  ],
);

/** Debits (positive) and credits (negative) of an entry; they add up to zero. */
export const legs = pgTable(
  'legs',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    entryId: uuid('entry_id').$type<EntryId>().notNull(),
    position: integer().notNull(),
    accountId: uuid('account_id').$type<AccountId>().notNull(),
    /** The account in which it is shown: its own, or the one that this was merged into. The database keeps it. */
    shownAccountId: uuid('shown_account_id').$type<AccountId>().notNull(),
    /** The day and the payee of its entry. The database keeps them, so that a period is read without its entries. */
    date: date().notNull(),
    payeeId: uuid('payee_id').$type<PayeeId>(),
    amount: bigint({ mode: 'number' }).notNull(),
    /** What it is in the currency of its bank account or document, where that is not the books'. */
    original: bigint({ mode: 'number' }),
    /** In the currency of its bank account. */
    own: bigint({ mode: 'number' }).notNull().generatedAlwaysAs(sql`coalesce(original, amount)`),
    taxCodeId: uuid('tax_code_id').$type<TaxCodeId>(),
    role: text({ enum: legRoles }).notNull(),
    /** On which side of the tax return it counts; null for none. */
    taxSide: text('tax_side', { enum: taxSides }),
    /** What of a base leg was taxed. */
    taxable: bigint({ mode: 'number' }),
    costCentreId: uuid('cost_centre_id'),
    jobId: uuid('job_id'),
    /** The customer of the job is to be charged for it. */
    isRecharged: boolean('is_recharged').notNull().default(false),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('legs_entry').on(table.booksId, table.entryId),
    index('legs_account').on(table.booksId, table.accountId),
    index('legs_shown').on(table.booksId, table.shownAccountId),
    index('legs_taxed').on(table.booksId).where(sql`${table.taxSide} is not null`),
    index('legs_coded').on(table.booksId, table.date).where(sql`${table.role} = 'base'`),
    check(
      'legs_taxable',
      sql`(${table.taxable} is not null) = (${table.taxSide} is not null and ${table.role} = 'base')`,
    ),
    index('legs_bank_amount').on(table.booksId, table.own).where(sql`${table.role} = 'bank'`),
    foreignKey({
      columns: [table.booksId, table.entryId],
      foreignColumns: [entries.booksId, entries.id],
    }),
    foreignKey({
      columns: [table.booksId, table.accountId],
      foreignColumns: [accounts.booksId, accounts.id],
    }),
    foreignKey({
      columns: [table.booksId, table.taxCodeId],
      foreignColumns: [taxCodes.booksId, taxCodes.id],
    }),
    foreignKey({
      columns: [table.booksId, table.costCentreId],
      foreignColumns: [costObjects.booksId, costObjects.id],
    }),
    foreignKey({
      columns: [table.booksId, table.jobId],
      foreignColumns: [costObjects.booksId, costObjects.id],
    }),
  ],
);

/** How much of a leg on a bank account that holds clients' money is whose; a leg's shares add up to it. */
export const clientShares = pgTable(
  'client_shares',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    legId: uuid('leg_id').$type<LegId>().notNull(),
    clientId: uuid('client_id').$type<PayeeId>().notNull(),
    /** In the currency of the bank account, in positive, out negative. */
    amount: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.legId, table.clientId] }),
    index('client_shares_client').on(table.booksId, table.clientId),
    foreignKey({
      columns: [table.booksId, table.legId],
      foreignColumns: [legs.booksId, legs.id],
    }),
    foreignKey({
      columns: [table.booksId, table.clientId],
      foreignColumns: [payees.booksId, payees.id],
    }),
  ],
);

/** What was decided about lines, with the coding it was done by. */
export const decisions = pgTable(
  'decisions',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    kind: text({ enum: decisionKinds }).notNull(),
    reason: text({ enum: keptOutReasons }),
    coding: jsonb(),
    payeeId: uuid('payee_id').$type<PayeeId>().generatedAlwaysAs(sql`(coding ->> 'payeeId')::uuid`),
    /** What proposed the coding, and whether it was left unchanged. */
    proposedBy: text('proposed_by', { enum: proposalSources }),
    /** The rule that proposed it. */
    ruleId: uuid('rule_id').$type<RuleId>(),
    isKept: boolean('is_kept').notNull().default(false),
    /** With what log odds a habit proposed the account, and whether that was left. */
    odds: real(),
    isAccountKept: boolean('is_account_kept').notNull().default(false),
    /** How it was posted: alone, as a stack, unread in a sweep, or at once by a rule. */
    way: text({ enum: postedWays }),
    /** Why lines and what they are paired with were not the same, as somebody said. */
    difference: jsonb(),
    /** Nothing is to be learned from it. */
    isOnce: boolean('is_once').notNull().default(false),
    /** The line that an excluded or deleted second copy is a copy of. */
    copyOf: uuid('copy_of'),
    step: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('decisions_rule').on(table.booksId, table.ruleId).where(sql`${table.ruleId} is not null`),
    index('decisions_copy').on(table.booksId, table.copyOf).where(sql`${table.copyOf} is not null`),
    index('decisions_step').on(table.booksId, table.step),
    index('decisions_payee').on(table.booksId, table.payeeId),
    index('decisions_looked')
      .on(table.booksId, table.step)
      .where(sql`${table.odds} is not null and ${table.way} in ('line', 'stack')`),
    check(
      'decisions_copy_named',
      sql`${table.reason} is distinct from 'secondCopy' or ${table.copyOf} is not null`,
    ),
    foreignKey({
      columns: [table.booksId, table.copyOf],
      foreignColumns: [lines.booksId, lines.id],
    }),
  ],
);

/** Ties a decision to its lines; a line has at most one live decision. */
export const decisionLines = pgTable(
  'decision_lines',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    decisionId: uuid('decision_id').$type<DecisionId>().notNull(),
    lineId: uuid('line_id').$type<LineId>().notNull(),
    isLive: boolean('is_live').notNull().default(true),
    /** The line's. These two and what follows are kept by the database, so that a period is read from here alone. */
    date: date().notNull(),
    amount: bigint({ mode: 'number' }).notNull(),
    /** The account of what was posted, of its first part; null where nothing was. */
    accountId: uuid('account_id').$type<AccountId>(),
    /** A sweep or a rule posted it, so that nobody looked. */
    isUnseen: boolean('is_unseen').notNull(),
    /** The newest step that brought it into force or out of it. */
    lastStep: bigint('last_step', { mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.decisionId, table.lineId] }),
    index('decision_lines_changed').on(table.booksId, table.lastStep),
    uniqueIndex('decision_lines_live').on(table.booksId, table.lineId).where(sql`${table.isLive}`),
    index('decision_lines_date').on(table.booksId, table.date).where(sql`${table.isLive}`),
    index('decision_lines_undone')
      .on(table.booksId, table.lineId, table.decisionId)
      .where(sql`not ${table.isLive}`),
    foreignKey({
      columns: [table.booksId, table.decisionId],
      foreignColumns: [decisions.booksId, decisions.id],
    }),
    foreignKey({
      columns: [table.booksId, table.lineId],
      foreignColumns: [lines.booksId, lines.id],
    }),
  ],
);

/** Ties a decision to bank legs; a bank leg has at most one live decision. */
export const decisionLegs = pgTable(
  'decision_legs',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    decisionId: uuid('decision_id').$type<DecisionId>().notNull(),
    legId: uuid('leg_id').$type<LegId>().notNull(),
    isLive: boolean('is_live').notNull().default(true),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.decisionId, table.legId] }),
    uniqueIndex('decision_legs_live').on(table.booksId, table.legId).where(sql`${table.isLive}`),
    foreignKey({
      columns: [table.booksId, table.decisionId],
      foreignColumns: [decisions.booksId, decisions.id],
    }),
    foreignKey({
      columns: [table.booksId, table.legId],
      foreignColumns: [legs.booksId, legs.id],
    }),
  ],
);

/**
 * Bills, invoices and credit notes, each with its entry; credit left from a payment has the entry of that.
 * A document is void when its entry is.
 */
export const documents = pgTable(
  'documents',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    kind: text({ enum: documentKinds }).notNull(),
    side: text({ enum: documentSides }).notNull(),
    number: text(),
    /** The number as numbers are compared, see `nameKey`. */
    numberKey: text('number_key'),
    payeeId: uuid('payee_id').$type<PayeeId>().notNull(),
    date: date().notNull(),
    dueDate: date('due_date'),
    /** What a line would have to come to that settles it whole: in positive, out negative. */
    amount: bigint({ mode: 'number' }).notNull(),
    /** Its currency and the rate it was taken into the books at; null where it is in the books' own. */
    exchange: jsonb(),
    /** What it was taken into the books at; null where it is in the books' own currency. */
    worth: bigint({ mode: 'number' }),
    /** Its lines as they were entered. */
    lines: jsonb().notNull().default([]),
    note: text(),
    entryId: uuid('entry_id').$type<EntryId>().notNull(),
    step: bigint({ mode: 'number' }).notNull(),
    lastStep: bigint('last_step', { mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('documents_entry').on(table.booksId, table.entryId),
    index('documents_payee').on(table.booksId, table.payeeId),
    // In the order in which they are listed.
    index('documents_listed').on(table.booksId, table.side, table.date, table.number),
    index('documents_exchanged').on(table.booksId).where(sql`${table.exchange} is not null`),
    foreignKey({
      columns: [table.booksId, table.entryId],
      foreignColumns: [entries.booksId, entries.id],
    }),
    foreignKey({
      columns: [table.booksId, table.payeeId],
      foreignColumns: [payees.booksId, payees.id],
    }),
  ],
);

/** How much of a document a pairing settles, signed like the document; the other way where it reopens it. */
export const allocations = pgTable(
  'allocations',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    /** Names it where its payment may have come back. */
    id: uuid().notNull().defaultRandom(),
    decisionId: uuid('decision_id').$type<DecisionId>().notNull(),
    documentId: uuid('document_id').$type<DocumentId>().notNull(),
    amount: bigint({ mode: 'number' }).notNull(),
    /** What stood in the books for it; null where the document is in the books' own currency. */
    worth: bigint({ mode: 'number' }),
    isLive: boolean('is_live').notNull().default(true),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.decisionId, table.documentId] }),
    index('allocations_document').on(table.booksId, table.documentId),
    index('allocations_amount').on(table.booksId, table.amount).where(sql`${table.isLive}`),
    foreignKey({
      columns: [table.booksId, table.decisionId],
      foreignColumns: [decisions.booksId, decisions.id],
    }),
    foreignKey({
      columns: [table.booksId, table.documentId],
      foreignColumns: [documents.booksId, documents.id],
    }),
  ],
);

/**
 * The decisions whose lines and legs differ on a day, and from which day on and until when, exclusive, what they come to
 * does; kept by the database.
 */
export const unevenDecisions = pgTable(
  'uneven_decisions',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    decisionId: uuid('decision_id').$type<DecisionId>().notNull(),
    fromDate: date('from_date').notNull(),
    /** Null where they differ as a whole. */
    untilDate: date('until_date'),
  },
  (table) => [primaryKey({ columns: [table.booksId, table.decisionId] })],
);

/** The legs of entries in force on bank accounts that no line is decided to be; kept by the database. */
export const untiedLegs = pgTable(
  'untied_legs',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    legId: uuid('leg_id').$type<LegId>().notNull(),
  },
  (table) => [primaryKey({ columns: [table.booksId, table.legId] })],
);

/**
 * What a transaction has yet to be checked for before it ends, each kind for all that a statement touched at once: written
 * by triggers and gone again with the transaction, so that nobody ever sees a row.
 */
export const checksDue = pgTable(
  'checks_due',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull().defaultRandom(),
    /** Of entries that they balance, or stand as they count and are free to; of decisions that their pairs come out even. */
    kind: text({ enum: ['balance', 'turn', 'pair'] }).notNull(),
    /** Of entries, or of decisions. */
    ids: uuid().array().notNull(),
  },
  (table) => [primaryKey({ columns: [table.booksId, table.id] })],
);

/** What is open of documents, signed like them, of those of which something is; kept by the database. */
export const openDocuments = pgTable(
  'open_documents',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    documentId: uuid('document_id').$type<DocumentId>().notNull(),
    amount: bigint({ mode: 'number' }).notNull(),
    /** What stands in the books for it. */
    worth: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.booksId, table.documentId] })],
);
