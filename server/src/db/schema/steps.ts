import type { BooksId, UserId } from '@zubrell/core/ids';
import { stepKinds } from '@zubrell/core/steps/stepKinds';
import { neededThings, stepThings } from '@zubrell/core/steps/stepThings';
import { sql } from 'drizzle-orm';
import {
  bigint,
  date,
  doublePrecision,
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
import { books } from './books.ts';
import { bytea } from './lines.ts';

/** One undoable action each; append-only. */
export const steps = pgTable(
  'steps',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    no: bigint({ mode: 'number' }).notNull(),
    userId: uuid('user_id').$type<UserId>().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
    kind: text({ enum: stepKinds }).notNull(),
    words: text().notNull(),
    /** The step this one takes back. */
    undoes: bigint({ mode: 'number' }),
    /** The taken-back step this one brings back. */
    redoes: bigint({ mode: 'number' }),
    /** The step this one takes back or brings back: the newest of these says how that step stands. */
    turns: bigint({ mode: 'number' }).generatedAlwaysAs(sql`coalesce(undoes, redoes)`),
    /** Over the step, what it touched and needs, and the step before: set when its transaction ends. */
    hash: bytea(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.no] }),
    index('steps_turns').on(table.booksId, table.turns, table.no),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

/** What a step touched, before and after; append-only. */
export const stepItems = pgTable(
  'step_items',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    stepNo: bigint('step_no', { mode: 'number' }).notNull(),
    position: integer().notNull(),
    thing: text({ enum: stepThings }).notNull(),
    thingId: uuid('thing_id').notNull(),
    before: jsonb(),
    after: jsonb(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.stepNo, table.position] }),
    index('step_items_thing').on(table.booksId, table.thingId),
    foreignKey({
      columns: [table.booksId, table.stepNo],
      foreignColumns: [steps.booksId, steps.no],
    }),
  ],
);

/** What has to be there for a step to hold, beside what it touched itself; append-only. */
export const stepNeeds = pgTable(
  'step_needs',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    stepNo: bigint('step_no', { mode: 'number' }).notNull(),
    thing: text({ enum: neededThings }).notNull(),
    thingId: uuid('thing_id').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.stepNo, table.thing, table.thingId] }),
    index('step_needs_thing').on(table.booksId, table.thingId),
    foreignKey({
      columns: [table.booksId, table.stepNo],
      foreignColumns: [steps.booksId, steps.no],
    }),
  ],
);

/** What a step says, with its values apart, so that each reader has dates and amounts as they write them. */
export const stepWords = pgTable(
  'step_words',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    stepNo: bigint('step_no', { mode: 'number' }).notNull(),
    key: text().notNull(),
    values: jsonb().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.stepNo] }),
    foreignKey({
      columns: [table.booksId, table.stepNo],
      foreignColumns: [steps.booksId, steps.no],
    }),
  ],
);

/**
 * How many keys and clicks it took somebody from the step before to this one, where their browser counted them: parted
 * evenly among the lines that it decided, by the months of these.
 */
export const stepPresses = pgTable(
  'step_presses',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    stepNo: bigint('step_no', { mode: 'number' }).notNull(),
    /** Its first day. */
    month: date().notNull(),
    presses: doublePrecision().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.stepNo, table.month] }),
    foreignKey({
      columns: [table.booksId, table.stepNo],
      foreignColumns: [steps.booksId, steps.no],
    }),
  ],
);

/** Answers already given to commands, so that a repeated request is answered, not done again. */
export const idempotencyKeys = pgTable(
  'idempotency_keys',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    key: text().notNull(),
    bodyHash: text('body_hash').notNull(),
    answer: jsonb().notNull(),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.booksId, table.key] })],
);
