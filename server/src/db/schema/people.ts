import {
  boolean,
  index,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core';

/** Who may sign in. Stands outside any books. */
export const users = pgTable('users', {
  id: uuid().primaryKey(),
  email: text().notNull().unique(),
  name: text().notNull(),
  passwordHash: text('password_hash').notNull(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
});

/** Signed-in browsers; only the hash of the session's id is kept. */
export const sessions = pgTable(
  'sessions',
  {
    idHash: text('id_hash').primaryKey(),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
    expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
  },
  (table) => [index('sessions_user').on(table.userId)],
);

const roles = ['owner', 'bookkeeper', 'reviewer', 'client'] as const;

/** Who may do what in which books. */
export const memberships = pgTable(
  'memberships',
  {
    booksId: uuid('books_id').notNull(),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id),
    role: text({ enum: roles }).notNull(),
    /** What this user wants to see of these books: hidden fields, the bank's fields. */
    preferences: jsonb().notNull().default({}),
    /** Whether they may see proposals that come from the owner's other books. */
    seesOtherBooks: boolean('sees_other_books').notNull().default(false),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.userId] }),
    index('memberships_user').on(table.userId),
  ],
);

/** Invitations to books, to be taken up by whoever has the link; only the hash of its secret is kept. */
export const invitations = pgTable(
  'invitations',
  {
    booksId: uuid('books_id').notNull(),
    id: uuid().notNull(),
    secretHash: text('secret_hash').notNull().unique(),
    /** Whom it is meant for: questions to this name become theirs. */
    name: text().notNull(),
    role: text({ enum: roles }).notNull(),
    invitedBy: uuid('invited_by')
      .notNull()
      .references(() => users.id),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
    expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.booksId, table.id] })],
);
