import { recordKinds } from '@zubrell/core/audit/recordKinds';
import type { BooksId, LineId, UserId } from '@zubrell/core/ids';
import {
  bigint,
  date,
  foreignKey,
  index,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  timestamp,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import { books } from './books.ts';
import { bytea, lines } from './lines.ts';
import { users } from './people.ts';

/**
 * Who got in, was refused, or changed who may do what; append-only, by a function that takes the person from the
 * session. Records of one set of books, and those of none, are a chain each.
 */
export const auditRecords = pgTable(
  'audit_records',
  {
    /** Null where it concerns no books: signing in, one's password. */
    booksId: uuid('books_id').$type<BooksId>(),
    no: bigint({ mode: 'number' }).notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
    /** Who did it; null where nobody was signed in. */
    userId: uuid('user_id').$type<UserId>(),
    kind: text({ enum: recordKinds }).notNull(),
    /** Whom it concerns, beside who did it. */
    subjectId: uuid('subject_id'),
    /** What else there is to say, without anything of a person. */
    details: jsonb().notNull(),
    /** Address, browser, name: gone once the person is erased. */
    personal: jsonb(),
    /** Goes with what is personal, so that nobody can guess it from its hash. */
    salt: bytea(),
    personalHash: bytea('personal_hash').notNull(),
    /** Over the record and the one before. */
    hash: bytea().notNull(),
  },
  (table) => [
    unique('audit_records_no').on(table.booksId, table.no).nullsNotDistinct(),
    index('audit_records_user').on(table.userId),
    index('audit_records_subject').on(table.subjectId),
  ],
);

/** Where each chain ends, so that its newest rows can't go missing. */
export const auditHeads = pgTable(
  'audit_heads',
  {
    booksId: uuid('books_id').$type<BooksId>(),
    chain: text({ enum: ['steps', 'records'] }).notNull(),
    no: bigint({ mode: 'number' }).notNull(),
    hash: bytea().notNull(),
  },
  (table) => [unique('audit_heads_chain').on(table.booksId, table.chain).nullsNotDistinct()],
);

/** Who has asked for something in these books that the program does later in their name. */
export const mandates = pgTable(
  'mandates',
  {
    booksId: uuid('books_id')
      .$type<BooksId>()
      .notNull()
      .references(() => books.id),
    userId: uuid('user_id')
      .$type<UserId>()
      .notNull()
      .references(() => users.id),
  },
  (table) => [primaryKey({ columns: [table.booksId, table.userId] })],
);

/** The day that it always is here, as in the demo; only the tables' owner may say so. */
export const fixedDay = pgTable('fixed_day', { day: date().notNull() });

/** Proposals as they were made at first, each wording of one once. */
export const proposalTexts = pgTable(
  'proposal_texts',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    digest: bigint({ mode: 'number' }).notNull(),
    proposal: jsonb().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.digest] }),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

/** What was first proposed for a line; append-only. */
export const firstProposals = pgTable(
  'first_proposals',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    lineId: uuid('line_id').$type<LineId>().notNull(),
    digest: bigint({ mode: 'number' }).notNull(),
    lane: text().notNull(),
    /** The probability that it is right, where it comes from look-alikes. */
    sureness: real(),
    at: timestamp({ withTimezone: true }).notNull(),
    /** The books' newest step then: rules and habits were as that left them. */
    step: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.lineId] }),
    foreignKey({
      columns: [table.booksId, table.lineId],
      foreignColumns: [lines.booksId, lines.id],
    }),
    foreignKey({
      columns: [table.booksId, table.digest],
      foreignColumns: [proposalTexts.booksId, proposalTexts.digest],
    }),
  ],
);
