import { fileFormats } from '@zubrell/core/formats/bankFile';
import type {
  AccountId,
  BankAccountId,
  BatchId,
  BooksId,
  FeedId,
  LineId,
  PayeeId,
  RuleId,
} from '@zubrell/core/ids';
import { batchStatuses, heldReasons } from '@zubrell/core/intake/held';
import { decisionKinds, openLanes, proposedLanes } from '@zubrell/core/ledger/decisions';
import { keptOutReasons } from '@zubrell/core/ledger/excludeReasons';
import { nudgeKinds } from '@zubrell/core/propose/nudge/nudges';
import { decisionSources } from '@zubrell/core/propose/proposal';
import { askedStates } from '@zubrell/core/questions/states';
import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  check,
  customType,
  date,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core';
import { bankAccounts, books, payees } from './books.ts';

/** Raw bytes. */
export const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });

/** Raw files as they came, in pieces, until their batch is kept or refused. */
export const uploads = pgTable(
  'uploads',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    fileName: text('file_name').notNull(),
    size: bigint({ mode: 'number' }).notNull(),
    sha256: text().notNull(),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

export const uploadPieces = pgTable(
  'upload_pieces',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    uploadId: uuid('upload_id').notNull(),
    position: integer().notNull(),
    bytes: bytea().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.uploadId, table.position] }),
    foreignKey({
      columns: [table.booksId, table.uploadId],
      foreignColumns: [uploads.booksId, uploads.id],
    }).onDelete('cascade'),
  ],
);

/** What one file brought in. */
export const batches = pgTable(
  'batches',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    bankAccountId: uuid('bank_account_id').$type<BankAccountId>().notNull(),
    fileName: text('file_name').notNull(),
    /** Null where its lines were moved from another batch. */
    uploadId: uuid('upload_id'),
    statementIndex: integer('statement_index').notNull(),
    /** The feed that fetched it; null for a file. */
    feedId: uuid('feed_id').$type<FeedId>(),
    /** The batch whose lines it took over, because they were in the wrong bank account. */
    movedFrom: uuid('moved_from'),
    /** `reading` until the job is done; `refused` keeps nothing but the reason. */
    status: text({ enum: batchStatuses }).notNull(),
    format: text({ enum: fileFormats }),
    /** Error code and values where refused. */
    refusal: jsonb(),
    problems: jsonb().notNull().default([]),
    /** How a table was read; null for other formats. */
    layout: jsonb(),
    fromDate: date('from_date'),
    toDate: date('to_date'),
    /** Stated booked balance before the first line. */
    opening: bigint({ mode: 'number' }),
    /** Stated booked balance and its day. */
    closing: bigint({ mode: 'number' }),
    closingDate: date('closing_date'),
    lineCount: integer('line_count').notNull().default(0),
    newCount: integer('new_count').notNull().default(0),
    createdBy: uuid('created_by').notNull(),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('batches_account').on(table.booksId, table.bankAccountId, table.closingDate),
    foreignKey({
      columns: [table.booksId, table.bankAccountId],
      foreignColumns: [bankAccounts.booksId, bankAccounts.id],
    }),
  ],
);

/** What the bank reported. The facts are never updated; only stems and the last four columns are. */
export const lines = pgTable(
  'lines',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    bankAccountId: uuid('bank_account_id').$type<BankAccountId>().notNull(),
    date: date().notNull(),
    valueDate: date('value_date'),
    amount: bigint({ mode: 'number' }).notNull(),
    description: text().notNull(),
    reference: text(),
    payee: text(),
    bankId: text('bank_id'),
    type: text(),
    chequeNumber: text('cheque_number'),
    counterparty: text(),
    category: text(),
    /** Whose card it was paid with, as the file names them. */
    cardholder: text(),
    original: text(),
    /** The coding columns of a prepared file, as they stood there. */
    prepared: jsonb(),
    balance: bigint({ mode: 'number' }),
    /** Order among the lines of one batch. */
    position: integer().notNull(),
    /** What look-alikes have in common; computed, rebuilt when the engine learns better. */
    stem: text().notNull(),
    /** The stem by its wording alone, before somebody said what belongs together. */
    ownStem: text('own_stem').notNull(),
    /** The description as wordings are compared; computed. */
    plain: text().notNull(),
    /** Whether it is here: by itself, or because a kept batch has seen it. */
    isHere: boolean('is_here').notNull().default(true),
    /** Whether it is here by itself: written by hand, moved here, or decided when its batch was taken back. */
    isOwn: boolean('is_own').notNull().default(false),
    /** The line of another bank account that it was moved from. */
    movedFrom: uuid('moved_from'),
    /** The line it may be a second copy of, until somebody says. */
    twiceOf: uuid('twice_of'),
    /** Whether a question about it is open, or answered and not settled. */
    asked: text({ enum: askedStates }),
    /** Why it is held for a decision, whatever is proposed for it. */
    held: text({ enum: heldReasons }),
    /** The newest step that touched it otherwise than by a decision, whose ties tell theirs. */
    lastStep: bigint('last_step', { mode: 'number' }).notNull(),
    /**
     * The newest step that changed what is learned of it but not the line itself: it moved it to another stack, or
     * made its payee another one.
     */
    relearnStep: bigint('relearn_step', { mode: 'number' }).notNull().default(0),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('lines_account_date').on(table.booksId, table.bankAccountId, table.date),
    index('lines_date').on(table.booksId, table.date, table.id),
    index('lines_stem').on(table.booksId, table.stem, table.date),
    // For the order alone: no condition can use it, as abs may tell what row-level security hides.
    index('lines_size').on(table.booksId, sql`abs(${table.amount})`),
    index('lines_amount').on(table.booksId, table.amount),
    // What steps change is put into its list of what is pending, which a bulk command doesn't have to empty.
    index('lines_said')
      .using(
        'gin',
        table.booksId,
        sql`said(${table.description}, ${table.reference}, ${table.payee}) gin_trgm_ops`,
      )
      .with({ gin_pending_list_limit: 32_768 }),
    index('lines_held')
      .on(table.booksId, table.bankAccountId)
      .where(sql`${table.held} is not null`),
    index('lines_gone').on(table.booksId, table.id).where(sql`not ${table.isHere}`),
    index('lines_twice').on(table.booksId, table.twiceOf).where(sql`${table.twiceOf} is not null`),
    index('lines_changed').on(
      table.booksId,
      sql`greatest(${table.lastStep}, ${table.relearnStep})`,
    ),
    foreignKey({
      columns: [table.booksId, table.bankAccountId],
      foreignColumns: [bankAccounts.booksId, bankAccounts.id],
    }),
  ],
);

/**
 * The lines that are open, each with what the Desk lists and counts by: kept by the database whenever lines, what is
 * proposed for them, or what was decided of them changes, so that nothing has to read all lines to find these.
 */
export const openLines = pgTable(
  'open_lines',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    lineId: uuid('line_id').$type<LineId>().notNull(),
    bankAccountId: uuid('bank_account_id').$type<BankAccountId>().notNull(),
    date: date().notNull(),
    amount: bigint({ mode: 'number' }).notNull(),
    stem: text().notNull(),
    asked: text({ enum: askedStates }),
    held: text({ enum: heldReasons }),
    /** Whether it may be a second copy of a line that is here. */
    isTwice: boolean('is_twice').notNull(),
    /** Of its proposal, all of these; null where nothing is proposed. */
    proposed: text({ enum: proposedLanes }),
    digest: bigint({ mode: 'bigint' }),
    accountId: uuid('account_id').$type<AccountId>(),
    payeeId: text('payee_id'),
    isPair: boolean('is_pair').notNull(),
    /** The doubt about a pair that other lines fit it as well. */
    equalLines: jsonb('equal_lines'),
    /** Its texts, folded, as searches look for them. */
    said: text().notNull(),
    /**
     * A question keeps it in Asked; a doubt about the line itself is a doubt, and so is an answer that nobody has acted
     * on.
     */
    lane: text({ enum: openLanes })
      .notNull()
      .generatedAlwaysAs(
        sql`case when asked = 'open' then 'asked'
          when is_twice or asked = 'answered' or held is not null then 'check'
          else coalesce(proposed, 'blank') end`,
      ),
  },
  (table) => [primaryKey({ columns: [table.booksId, table.lineId] })],
);

/**
 * The lines that were decided, by bank account, day and side, by how and by what proposed it: how many they are, and what
 * the bank moved with them. Kept by the database, from lines and decisions alone.
 */
export const decidedDays = pgTable(
  'decided_days',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    bankAccountId: uuid('bank_account_id').$type<BankAccountId>().notNull(),
    date: date().notNull(),
    isOut: boolean('is_out').notNull(),
    kind: text({ enum: decisionKinds }).notNull(),
    /** Why they are kept out; empty for what isn't. */
    reason: text({ enum: [...keptOutReasons, ''] }).notNull(),
    /** What proposed it; `hand` where nothing did, or something else was decided. */
    source: text({ enum: decisionSources }).notNull(),
    count: integer().notNull(),
    amount: bigint({ mode: 'number' }).notNull(),
    /** How many of them somebody looked at, and of these how many were decided as proposed; how many nobody looked at. */
    looked: integer().notNull(),
    kept: integer().notNull(),
    unseen: integer().notNull(),
  },
  (table) => [
    primaryKey({
      name: 'decided_days_pk',
      columns: [
        table.booksId,
        table.bankAccountId,
        table.date,
        table.isOut,
        table.kind,
        table.reason,
        table.source,
      ],
    }),
  ],
);

/** What somebody said of stems: that two are one payee's, or that a word sets lines apart. */
export const aliases = pgTable(
  'aliases',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    /** Lines of this own stem … */
    stem: text().notNull(),
    /** … that have this word, or all of them … */
    word: text(),
    /** … belong to this stem. */
    target: text().notNull(),
    isLive: boolean('is_live').notNull().default(true),
    step: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('aliases_stem').on(table.booksId, table.stem),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

/** Words that were learned to say how money moved, and not who was paid. */
export const noiseWords = pgTable(
  'noise_words',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    word: text().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.word] }),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

/** What was learned of stems from all lines: those that belong together are put under one. */
export const learnedStems = pgTable(
  'learned_stems',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    stem: text().notNull(),
    target: text().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.stem] }),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

/** Nudges that somebody does not want any more, for a payee or else for look-alikes. */
export const dismissals = pgTable(
  'dismissals',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    nudge: text({ enum: nudgeKinds }).notNull(),
    payeeId: uuid('payee_id').$type<PayeeId>(),
    stem: text(),
    isLive: boolean('is_live').notNull().default(true),
    step: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    check('dismissals_of_one', sql`(${table.payeeId} is null) <> (${table.stem} is null)`),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
    foreignKey({
      columns: [table.booksId, table.payeeId],
      foreignColumns: [payees.booksId, payees.id],
    }),
  ],
);

/** Each time a batch reports a line. */
export const sightings = pgTable(
  'sightings',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    batchId: uuid('batch_id').$type<BatchId>().notNull(),
    lineId: uuid('line_id').$type<LineId>().notNull(),
    /** Line number in the file. */
    place: integer().notNull(),
    /** Whether the line was there before, so that it came in as none of its own. */
    isFold: boolean('is_fold').notNull().default(false),
    /** What the batch says of the line, by column, where that is not what the line says; computed texts too. */
    own: jsonb(),
    /** The line that somebody made of it, as it is another payment than the one it was taken for. */
    apartLineId: uuid('apart_line_id').$type<LineId>(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.batchId, table.lineId] }),
    index('sightings_line').on(table.booksId, table.lineId),
    foreignKey({
      columns: [table.booksId, table.batchId],
      foreignColumns: [batches.booksId, batches.id],
    }),
    foreignKey({
      columns: [table.booksId, table.lineId],
      foreignColumns: [lines.booksId, lines.id],
    }),
  ],
);

/** End-of-day balances that a batch states beside its closing one. */
export const dayBalances = pgTable(
  'day_balances',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    batchId: uuid('batch_id').$type<BatchId>().notNull(),
    date: date().notNull(),
    amount: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.batchId, table.date] }),
    foreignKey({
      columns: [table.booksId, table.batchId],
      foreignColumns: [batches.booksId, batches.id],
    }),
  ],
);

/** How the tables of a bank account's bank are read, by their shape. */
export const layouts = pgTable(
  'layouts',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    bankAccountId: uuid('bank_account_id').$type<BankAccountId>().notNull(),
    /** Headings, or the number of columns. */
    shape: text().notNull(),
    choices: jsonb().notNull(),
    /** How many files were kept with it. */
    times: integer().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.bankAccountId, table.shape] }),
    foreignKey({
      columns: [table.booksId, table.bankAccountId],
      foreignColumns: [bankAccounts.booksId, bankAccounts.id],
    }),
  ],
);

/** Half-done coding, one shared row a line, kept across undo. A null coding is a cleared draft. */
export const drafts = pgTable(
  'drafts',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    lineId: uuid('line_id').$type<LineId>().notNull(),
    coding: jsonb(),
    version: integer().notNull(),
    updatedBy: uuid('updated_by').notNull(),
    updatedAt: timestamp('updated_at', { withTimezone: true }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.lineId] }),
    foreignKey({
      columns: [table.booksId, table.lineId],
      foreignColumns: [lines.booksId, lines.id],
    }),
  ],
);

/** What is proposed for an open line; no row for Blank. */
export const proposals = pgTable(
  'proposals',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    lineId: uuid('line_id').$type<LineId>().notNull(),
    lane: text({ enum: proposedLanes }).notNull(),
    proposal: jsonb().notNull(),
    /** Proposals with the same digest say the same. */
    digest: bigint({ mode: 'bigint' }).notNull(),
    /** The account of its first part. */
    accountId: uuid('account_id').$type<AccountId>(),
    /** The rule that made it. */
    ruleId: uuid('rule_id').$type<RuleId>(),
    /** By habit: log odds that the account is right, before the books' own record shifts them. */
    odds: real(),
    /** The probability that it is right. */
    sureness: real(),
  },
  (table) => [
    index('proposals_digest').on(table.booksId, table.digest),
    primaryKey({ columns: [table.booksId, table.lineId] }),
    foreignKey({
      columns: [table.booksId, table.lineId],
      foreignColumns: [lines.booksId, lines.id],
    }),
  ],
);
