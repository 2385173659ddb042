import { index, pgTable, primaryKey, text, timestamp, uuid } from 'drizzle-orm/pg-core';

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

/** Who may do what in which books. */
export const memberships = pgTable(
  'memberships',
  {
    booksId: uuid('books_id').notNull(),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id),
    role: text({ enum: ['owner', 'bookkeeper', 'reviewer', 'client'] }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.booksId, table.userId] }),
    index('memberships_user').on(table.userId),
  ],
);
