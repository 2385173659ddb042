import type { BooksId, DocumentId, EntryId, LineId, QuestionId } from '@zubrell/core/ids';
import { attachmentTypes, questionStates } from '@zubrell/core/questions/states';
import { sql } from 'drizzle-orm';
import {
  bigint,
  check,
  foreignKey,
  index,
  integer,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core';
import { documents, entries } from './ledger.ts';
import { bytea, lines } from './lines.ts';

/** What somebody was asked about lines. */
export const questions = pgTable(
  'questions',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    /** Who is to answer, by name. */
    askedOf: text('asked_of').notNull(),
    /** The user who is to answer; null where that is nobody who signs in. */
    askedUserId: uuid('asked_user_id'),
    words: text().notNull(),
    askedBy: uuid('asked_by').notNull(),
    askedAt: timestamp('asked_at', { withTimezone: true }).notNull(),
    state: text({ enum: questionStates }).notNull(),
    step: bigint({ mode: 'number' }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.booksId, table.id] })],
);

/** The lines that a question is about. */
export const questionLines = pgTable(
  'question_lines',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    questionId: uuid('question_id').$type<QuestionId>().notNull(),
    lineId: uuid('line_id').$type<LineId>().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.questionId, table.lineId] }),
    index('question_lines_line').on(table.booksId, table.lineId),
    foreignKey({
      columns: [table.booksId, table.questionId],
      foreignColumns: [questions.booksId, questions.id],
    }),
    foreignKey({
      columns: [table.booksId, table.lineId],
      foreignColumns: [lines.booksId, lines.id],
    }),
  ],
);

/** What was answered, for ever. */
export const answers = pgTable(
  'answers',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    questionId: uuid('question_id').$type<QuestionId>().notNull(),
    words: text().notNull(),
    writtenBy: uuid('written_by').notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('answers_question').on(table.booksId, table.questionId),
    foreignKey({
      columns: [table.booksId, table.questionId],
      foreignColumns: [questions.booksId, questions.id],
    }),
  ],
);

/** Attachments kept with a line: PDF or a picture. */
export const attachments = pgTable(
  'attachments',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    id: uuid().notNull(),
    /** It is kept with a line, a document, or an entry made by hand. */
    lineId: uuid('line_id').$type<LineId>(),
    documentId: uuid('document_id').$type<DocumentId>(),
    entryId: uuid('entry_id').$type<EntryId>(),
    fileName: text('file_name').notNull(),
    type: text({ enum: attachmentTypes }).notNull(),
    size: integer().notNull(),
    bytes: bytea().notNull(),
    addedBy: uuid('added_by').notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.id] }),
    index('attachments_line').on(table.booksId, table.lineId),
    index('attachments_document').on(table.booksId, table.documentId),
    index('attachments_entry').on(table.booksId, table.entryId),
    check(
      'attachments_of_one',
      sql`num_nonnulls(${table.lineId}, ${table.documentId}, ${table.entryId}) = 1`,
    ),
    foreignKey({
      columns: [table.booksId, table.entryId],
      foreignColumns: [entries.booksId, entries.id],
    }),
    foreignKey({
      columns: [table.booksId, table.lineId],
      foreignColumns: [lines.booksId, lines.id],
    }),
    foreignKey({
      columns: [table.booksId, table.documentId],
      foreignColumns: [documents.booksId, documents.id],
    }),
  ],
);
