import { countedKinds } from '@zubrell/core/closing/causes';
import { closingStates } from '@zubrell/core/closing/months';
import type {
  BankAccountId,
  BooksId,
  DecisionId,
  LineId,
  StatementId,
  UserId,
} from '@zubrell/core/ids';
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
  text,
  timestamp,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import { bankAccounts, books } from './books.ts';
import { lines } from './lines.ts';

/** Statements of bank accounts that somebody has said something about: a balance, other days, that it is agreed. */
export const statements = pgTable(
  'statements',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    bankAccountId: uuid('bank_account_id').$type<BankAccountId>().notNull(),
    fromDate: date('from_date').notNull(),
    toDate: date('to_date').notNull(),
    /** What the bank says that it closes at, as somebody typed it; null where a file or feed states it. */
    closing: bigint({ mode: 'number' }),
    /** Explanations of a difference that somebody said are none. */
    dismissed: jsonb().notNull().default([]),
    /** The step that agreed it last, and what it opened and closed at then; it is open where that is null. */
    agreedStep: bigint('agreed_step', { mode: 'number' }),
    agreedOpening: bigint('agreed_opening', { mode: 'number' }),
    agreedClosing: bigint('agreed_closing', { mode: 'number' }),
    agreedBy: uuid('agreed_by').$type<UserId>(),
    agreedAt: timestamp('agreed_at', { withTimezone: true }),
    /** The step that agreed it before it was opened again, to tell what has changed since. */
    lastAgreedStep: bigint('last_agreed_step', { mode: 'number' }),
    isHere: boolean('is_here').notNull().default(true),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('statements_account').on(table.booksId, table.bankAccountId, table.toDate),
    check('statements_period', sql`${table.fromDate} <= ${table.toDate}`),
    check('statements_agreed_here', sql`${table.isHere} or ${table.agreedStep} is null`),
    foreignKey({
      columns: [table.booksId, table.bankAccountId],
      foreignColumns: [bankAccounts.booksId, bankAccounts.id],
    }),
  ],
);

/** What a statement was made of when it was agreed: lines, or entries ticked against it. */
export const statementParts = pgTable(
  'statement_parts',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    statementId: uuid('statement_id').$type<StatementId>().notNull(),
    /** The step that agreed it. */
    step: bigint({ mode: 'number' }).notNull(),
    kind: text({ enum: countedKinds }).notNull(),
    thingId: uuid('thing_id').notNull(),
    amount: bigint({ mode: 'number' }).notNull(),
    /** What was decided about a line then. */
    decisionId: uuid('decision_id').$type<DecisionId>(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.statementId, table.step, table.thingId] }),
    index('statement_parts_thing').on(table.booksId, table.thingId),
    // The lines that the client was asked about when they were counted.
    index('statement_parts_undecided')
      .on(table.booksId, table.thingId)
      .where(sql`${table.kind} = 'line' and ${table.decisionId} is null`),
    foreignKey({
      columns: [table.booksId, table.statementId],
      foreignColumns: [statements.booksId, statements.id],
    }),
  ],
);

/**
 * What agreed statements count: how many lines of each day, and entries that were ticked, on the statement's last day; and
 * what they come to. Kept by the database.
 */
export const countedDays = pgTable(
  'counted_days',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    statementId: uuid('statement_id').$type<StatementId>().notNull(),
    bankAccountId: uuid('bank_account_id').$type<BankAccountId>().notNull(),
    kind: text({ enum: countedKinds }).notNull(),
    date: date().notNull(),
    count: integer().notNull(),
    amount: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.booksId, table.statementId, table.kind, table.date] })],
);

/** On which day a line counts in statements where that is not its own; of an entry's leg, that it was ticked. */
export const statementDays = pgTable(
  'statement_days',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    thingId: uuid('thing_id').notNull(),
    kind: text({ enum: countedKinds }).notNull(),
    day: date().notNull(),
  },
  (table) => [primaryKey({ columns: [table.booksId, table.thingId] })],
);

/** How far the closing of a month is, with who did what of it. */
export const closings = pgTable(
  'closings',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    /** `2026-03` */
    month: text().notNull(),
    state: text({ enum: closingStates }).notNull(),
    /** What was accepted although it was open, and why; or what is to be done, where it was sent back. */
    note: text().notNull().default(''),
    preparedBy: uuid('prepared_by').$type<UserId>(),
    preparedAt: timestamp('prepared_at', { withTimezone: true }),
    reviewedBy: uuid('reviewed_by').$type<UserId>(),
    reviewedAt: timestamp('reviewed_at', { withTimezone: true }),
    closedBy: uuid('closed_by').$type<UserId>(),
    closedAt: timestamp('closed_at', { withTimezone: true }),
    isHere: boolean('is_here').notNull().default(true),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    unique('closings_month').on(table.booksId, table.month),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

/** Lines that a reviewer has looked at. */
export const lineReviews = pgTable(
  'line_reviews',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    lineId: uuid('line_id').$type<LineId>().notNull(),
    userId: uuid('user_id').$type<UserId>().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.lineId] }),
    foreignKey({
      columns: [table.booksId, table.lineId],
      foreignColumns: [lines.booksId, lines.id],
    }),
  ],
);

/** What the list of all books shows of each, as of a step. */
export const booksSummaries = pgTable(
  'books_summaries',
  {
    booksId: uuid('books_id').$type<BooksId>().primaryKey(),
    step: bigint({ mode: 'number' }).notNull(),
    summary: jsonb().notNull(),
  },
  (table) => [foreignKey({ columns: [table.booksId], foreignColumns: [books.id] })],
);
