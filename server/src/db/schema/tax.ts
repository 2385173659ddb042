import type { BooksId, EntryId, LegId, TaxReturnId, UserId } from '@zubrell/core/ids';
import { taxReturnKinds } from '@zubrell/core/tax/taxReturn';
import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  check,
  date,
  foreignKey,
  index,
  jsonb,
  pgTable,
  primaryKey,
  smallint,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core';
import { books } from './books.ts';
import { entries, legs } from './ledger.ts';

/** Tax returns that were filed, and periods whose tax was reported elsewhere. */
export const taxReturns = pgTable(
  'tax_returns',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().$type<TaxReturnId>().notNull(),
    kind: text({ enum: taxReturnKinds }).notNull(),
    fromDate: date('from_date').notNull(),
    toDate: date('to_date').notNull(),
    /** What was filed, as it was then. */
    figures: jsonb(),
    note: text(),
    /** What the tax legs that it counted come to, debit positive. */
    counted: bigint({ mode: 'number' }).notNull().default(0),
    /** The journal that moved the tax to what is owed to the tax office. */
    entryId: uuid('entry_id').$type<EntryId>(),
    filedBy: uuid('filed_by').$type<UserId>().notNull(),
    filedAt: timestamp('filed_at', { withTimezone: true }).notNull(),
    step: bigint({ mode: 'number' }).notNull(),
    isHere: boolean('is_here').notNull().default(true),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('tax_returns_period').on(table.booksId, table.toDate),
    check('tax_returns_dates', sql`${table.fromDate} <= ${table.toDate}`),
    foreignKey({ columns: [table.booksId], foreignColumns: [books.id] }),
    foreignKey({
      columns: [table.booksId, table.entryId],
      foreignColumns: [entries.booksId, entries.id],
    }),
  ],
);

/** The legs that a return counted: 1 where it counted one, −1 where it took back what an earlier one had counted. */
export const taxReturnParts = pgTable(
  'tax_return_parts',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    returnId: uuid('return_id').$type<TaxReturnId>().notNull(),
    legId: uuid('leg_id').$type<LegId>().notNull(),
    sign: smallint().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.returnId, table.legId] }),
    index('tax_return_parts_leg').on(table.booksId, table.legId),
    check('tax_return_parts_sign', sql`${table.sign} in (1, -1)`),
    foreignKey({
      columns: [table.booksId, table.returnId],
      foreignColumns: [taxReturns.booksId, taxReturns.id],
    }),
    foreignKey({
      columns: [table.booksId, table.legId],
      foreignColumns: [legs.booksId, legs.id],
    }),
  ],
);
