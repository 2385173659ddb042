import type { BankAccountId, BooksId, FeedId, UserId } from '@zubrell/core/ids';
import { watchedStates } from '@zubrell/core/intake/watched';
import { sql } from 'drizzle-orm';
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

/** Books whose folder on the server is watched, in whose name files from it come in. */
export const watchedFolders = pgTable(
  'watched_folders',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    userId: uuid('user_id').$type<UserId>().notNull(),
    since: timestamp({ withTimezone: true }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId] }),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

/** Files that came in from a watched folder, or did not. */
export const watchedFiles = pgTable(
  'watched_files',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    fileName: text('file_name').notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
    state: text({ enum: watchedStates }).notNull(),
    /** What it is kept as: a batch for each statement; none where it was refused as a whole. */
    batchIds: uuid('batch_ids').array().notNull(),
    /** Code and parameters of the error that it was refused for. */
    refusal: jsonb(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('watched_files_at').on(table.booksId, table.at),
    index('watched_files_reading').on(table.booksId).where(sql`${table.state} = 'reading'`),
  ],
);
