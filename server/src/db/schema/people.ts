import type { BooksId, UserId } from '@zubrell/core/ids';
import { locales, usualLocale } from '@zubrell/core/people/locales';
import { roles } from '@zubrell/core/people/roles';
import {
  bigint,
  boolean,
  index,
  integer,
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
  /** How they read and write dates and amounts. */
  locale: text({ enum: locales }).notNull().default(usualLocale),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
  /** Since when nothing is known of them but what they did. */
  erasedAt: timestamp('erased_at', { withTimezone: true }),
});

/** What a user's second factor is checked by; it holds once a first code was right. */
export const secondFactors = pgTable('second_factors', {
  userId: uuid('user_id')
    .$type<UserId>()
    .primaryKey()
    .references(() => users.id),
  /** The secret that the user's device holds, sealed. */
  secret: text().notNull(),
  isOn: boolean('is_on').notNull().default(false),
  /** The newest period of 30 seconds whose code was used: none is taken twice. */
  lastPeriod: bigint('last_period', { mode: 'number' }).notNull().default(0),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
});

/** Codes that stand in for a lost device, once each; only their hashes are kept. */
export const recoveryCodes = pgTable('recovery_codes', {
  codeHash: text('code_hash').primaryKey(),
  userId: uuid('user_id')
    .$type<UserId>()
    .notNull()
    .references(() => users.id),
});

/** Links by which a user sets a new password; only the hash of the secret is kept. */
export const resetLinks = pgTable('reset_links', {
  secretHash: text('secret_hash').primaryKey(),
  userId: uuid('user_id')
    .$type<UserId>()
    .notNull()
    .references(() => users.id),
  /** Whether the second factor goes with the old password, because its device is lost. */
  endsSecondFactor: boolean('ends_second_factor').notNull(),
  expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
});

/** Passkeys (WebAuthn): what a device signs with in the place of a password. */
export const passkeys = pgTable(
  'passkeys',
  {
    /** The credential's id, in base64url. */
    id: text().primaryKey(),
    userId: uuid('user_id')
      .$type<UserId>()
      .notNull()
      .references(() => users.id),
    name: text().notNull(),
    /** COSE, in base64url. */
    publicKey: text('public_key').notNull(),
    /** How often it signed, as far as its device counts: one that goes back was copied. */
    counter: bigint({ mode: 'number' }).notNull(),
    transports: text().array().notNull(),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
    lastUsedAt: timestamp('last_used_at', { withTimezone: true }),
  },
  (table) => [index('passkeys_user').on(table.userId)],
);

/** Challenges that devices are to sign, each once and soon. */
export const passkeyChallenges = pgTable('passkey_challenges', {
  challenge: text().primaryKey(),
  /** Who makes a passkey with it; null where somebody signs in. */
  userId: uuid('user_id')
    .$type<UserId>()
    .references(() => users.id),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
});

/** Signed-in browsers; only the hash of the session's id is kept. */
export const sessions = pgTable(
  'sessions',
  {
    idHash: text('id_hash').primaryKey(),
    userId: uuid('user_id')
      .$type<UserId>()
      .notNull()
      .references(() => users.id),
    /** What its user knows it by. */
    id: uuid().notNull().defaultRandom().unique(),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
    /** It ends then, however busy it is, and before that where nothing was asked for long. */
    expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
    /** When something was last asked in it, to a few minutes. */
    lastSeenAt: timestamp('last_seen_at', { withTimezone: true }).notNull().defaultNow(),
    /** Where it was opened, and with what. */
    address: text().notNull().default(''),
    browser: text().notNull().default(''),
  },
  (table) => [index('sessions_user').on(table.userId)],
);

/**
 * How often it was tried in vain to sign in: to an account from an address, to an account, from an address. The key is
 * a hash, as what was typed may be a password in the wrong field.
 */
export const signInAttempts = pgTable('sign_in_attempts', {
  key: text().primaryKey(),
  count: integer().notNull(),
  lastAt: timestamp('last_at', { withTimezone: true }).notNull(),
});

/** Hashes of the codes by which the first user of an installation is made; gone when there is one. */
export const setUpCodes = pgTable('set_up_codes', {
  codeHash: text('code_hash').primaryKey(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
});

/** Who may do what in which books. */
export const memberships = pgTable(
  'memberships',
  {
    booksId: uuid('books_id').$type<BooksId>().notNull(),
    userId: uuid('user_id')
      .$type<UserId>()
      .notNull()
      .references(() => users.id),
    role: text({ enum: roles }).notNull(),
    /** What this user wants to see of these books: hidden fields, the bank's fields. */
    preferences: jsonb().notNull().default({}),
    /** Whether they may see proposals that come from the owner's other books. */
    seesOtherBooks: boolean('sees_other_books').notNull().default(false),
    /** When they were here last, and the newest step then; null before their first visit. */
    seenAt: timestamp('seen_at', { withTimezone: true }),
    seenStep: bigint('seen_step', { mode: 'number' }),
    /** When the visit before this one ended, and the newest step then; null while it is their first. */
    leftAt: timestamp('left_at', { withTimezone: true }),
    leftStep: bigint('left_step', { mode: 'number' }),
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
    booksId: uuid('books_id').$type<BooksId>().notNull(),
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
