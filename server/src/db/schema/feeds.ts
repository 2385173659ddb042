import type { BankAccountId, BooksId, FeedId } from '@zubrell/core/ids';
import {
  bigint,
  boolean,
  date,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core';
import { bankAccounts, books } from './books.ts';

/** A permission that a bank's customer gave us to read accounts. */
export const consents = pgTable(
  'consents',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    /** Which connector speaks to the bank. */
    connector: text().notNull(),
    bankName: text('bank_name').notNull(),
    /** What the bank knows the consent by; null until it is given. */
    token: text(),
    /** Ties the bank's answer to the request that was made. */
    state: text().notNull(),
    /** What the bank called it when it was asked for, where it did. */
    remoteName: text('remote_name'),
    expires: date(),
    createdBy: uuid('created_by').notNull(),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

/** A bank account's lines fetched from its bank. */
export const feeds = pgTable(
  'feeds',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    consentId: uuid('consent_id').notNull(),
    /** The account as the bank calls it. */
    remoteId: text('remote_id').notNull(),
    remoteName: text('remote_name').notNull(),
    remoteNumber: text('remote_number'),
    /** Null until somebody says which bank account of the books it is. */
    bankAccountId: uuid('bank_account_id').$type<BankAccountId>(),
    isDaily: boolean('is_daily').notNull(),
    /** Null: from the last closed statement, or 60 days. */
    lookBackDays: integer('look_back_days'),
    /** Fetching is under way. */
    isFetching: boolean('is_fetching').notNull().default(false),
    lastAt: timestamp('last_at', { withTimezone: true }),
    /** The last fetch that went well: until when the lines are known. */
    lastGoodAt: timestamp('last_good_at', { withTimezone: true }),
    lastFrom: date('last_from'),
    lastTo: date('last_to'),
    /** What came of the last fetch: counts, or the trouble. */
    lastResult: jsonb('last_result'),
    /** When it is tried again by itself. */
    nextAt: timestamp('next_at', { withTimezone: true }),
    /** Failures in a row. */
    failures: integer().notNull().default(0),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('feeds_account').on(table.booksId, table.bankAccountId),
    foreignKey({
      columns: [table.booksId, table.consentId],
      foreignColumns: [consents.booksId, consents.id],
    }),
    foreignKey({
      columns: [table.booksId, table.bankAccountId],
      foreignColumns: [bankAccounts.booksId, bankAccounts.id],
    }),
  ],
);

/** What a bank has announced and not booked yet; replaced with each fetch, never posted. */
export const announcedLines = pgTable(
  'announced_lines',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    feedId: uuid('feed_id').$type<FeedId>().notNull(),
    position: integer().notNull(),
    date: date().notNull(),
    amount: bigint({ mode: 'number' }).notNull(),
    description: text().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.feedId, table.position] }),
    foreignKey({
      columns: [table.booksId, table.feedId],
      foreignColumns: [feeds.booksId, feeds.id],
    }),
  ],
);
