import type { BooksId, PayeeId } from '@zubrell/core/ids';
import { markKinds } from '@zubrell/core/propose/habit/marks';
import {
  bigint,
  boolean,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uuid,
} from 'drizzle-orm/pg-core';
import { books, payees } from './books.ts';
import { bytea } from './lines.ts';

/** Written rules. A deleted one stays, so that what it coded can still name it. */
export const rules = pgTable(
  'rules',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    name: text().notNull(),
    /** Earlier rules have a lower rank; the numbers that are shown are counted from it. */
    rank: doublePrecision().notNull(),
    isOn: boolean('is_on').notNull(),
    isHere: boolean('is_here').notNull().default(true),
    /** What it takes, what becomes of it, and whether it is posted at once. */
    body: jsonb().notNull(),
    /** The step since which it takes and does what it does now: its record counts from there. */
    sinceStep: bigint('since_step', { mode: 'number' }).notNull(),
    /** How many lines had been coded otherwise by hand when it was saved, where those were the most of what it takes. */
    against: integer().notNull().default(0),
    /** The step that corrected a line which it had posted at once: it has to prove itself anew since. */
    stoppedStep: bigint('stopped_step', { mode: 'number' }),
    lastStep: bigint('last_step', { mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

/**
 * What habits learned by a step, to begin from: with what later steps touched it is what all decisions teach, and it
 * can be made anew from them at any time.
 */
export const learnedHabits = pgTable(
  'learned_habits',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    /** The newest step that is in it. */
    step: bigint({ mode: 'number' }).notNull(),
    /** By which way of learning it was made: what another made is not read. */
    version: integer().notNull(),
    state: bytea().notNull(),
    /** How often it was made anew because somebody asked for it: what servers have in mind is older then. */
    rebuilt: integer().notNull().default(0),
  },
  (table) => [
    primaryKey({ columns: [table.booksId] }),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
  ],
);

/** What somebody said of a habit: not to learn it at all, or to forget what was learned up to a step. */
export const habitMarks = pgTable(
  'habit_marks',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    kind: text({ enum: markKinds }).notNull(),
    payeeId: uuid('payee_id').$type<PayeeId>(),
    /** Lines of these stems without a payee, where there is none. */
    stems: text().array().notNull(),
    isLive: boolean('is_live').notNull().default(true),
    step: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('habit_marks_payee').on(table.booksId, table.payeeId),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
    foreignKey({
      columns: [table.booksId, table.payeeId],
      foreignColumns: [payees.booksId, payees.id],
    }),
  ],
);
