import { type ErrorCode, type ErrorParams, errors, ZubrellError } from '@zubrell/core/errors';
import { DrizzleQueryError } from 'drizzle-orm';
import pg from 'pg';

/** What was named and is not in the books, by the table that a foreign key asks. */
const MISSING: Readonly<Record<string, ErrorCode>> = {
  accounts: 'ACCOUNT_UNKNOWN',
  bank_accounts: 'BANK_ACCOUNT_UNKNOWN',
  batches: 'BATCH_UNKNOWN',
  books: 'BOOKS_UNKNOWN',
  cost_objects: 'COST_OBJECT_UNKNOWN',
  decisions: 'LINE_UNKNOWN',
  documents: 'DOCUMENT_UNKNOWN',
  entries: 'ENTRY_UNKNOWN',
  feeds: 'FEED_UNKNOWN',
  legs: 'ENTRY_UNKNOWN',
  lines: 'LINE_UNKNOWN',
  payees: 'PAYEE_UNKNOWN',
  questions: 'QUESTION_UNKNOWN',
  tax_codes: 'TAX_CODE_UNKNOWN',
  uploads: 'UPLOAD_MISSING',
  users: 'MEMBER_UNKNOWN',
};

/** What may be told of an error that is a fault of ours: its messages may quote what was asked for. */
export function errorKind(error: unknown): { readonly kind: string; readonly sqlState?: string } {
  const cause = causeOf(error);
  const sqlState = cause instanceof pg.DatabaseError ? cause.code : undefined;
  const kind = error instanceof Error ? error.name : 'unknown';
  return { kind, ...(sqlState === undefined ? {} : { sqlState }) };
}

/** The SQLSTATE of errors that the database raises by a name of the error table. */
const RAISED = 'ZB001';

/** The error of the table that an error is, or null where it is none. */
export function knownError(error: unknown): ZubrellError | null {
  if (error instanceof ZubrellError) return error;
  if (isDatabaseAway(error)) return new ZubrellError('DATABASE_AWAY');
  if (isPoolExhausted(error)) return new ZubrellError('BUSY');
  const cause = causeOf(error);
  if (!(cause instanceof pg.DatabaseError)) return null;
  if (cause.code !== RAISED || !(cause.message in errors)) return errorOfDatabase(cause);
  const params = JSON.parse(cause.detail ?? '{}') as ErrorParams;
  return new ZubrellError(cause.message as ErrorCode, params);
}

/** What is there already, by the constraint that allows it once; of others it is said in general. */
const TWICE: Readonly<Record<string, ErrorCode>> = {
  users_email_unique: 'EMAIL_TAKEN',
};

/**
 * What the database refused and a person can mend, as an error of the table: something named that is not
 * there, something that is there already, a value beyond what can be kept. Checks come before it; this is
 * for what slips past them, so that it is refused with words.
 *
 * @returns null where it is a fault of ours
 * @see PostgreSQL documentation, appendix A (SQLSTATE classes 22, 23, 40, 54, 55 and 57)
 */
export function errorOfDatabase({
  code,
  constraint = '',
  table = '',
}: Pick<pg.DatabaseError, 'code' | 'constraint' | 'table'>): ZubrellError | null {
  if (code === '23503') return new ZubrellError(missingBy(constraint, table));
  // Others hold what is needed (lock timeout, deadlock), or it took longer than the connection's patience.
  if (code === '55P03' || code === '40P01') return new ZubrellError('BUSY');
  if (code === '57014' || code === '25P03') return new ZubrellError('TOOK_TOO_LONG');
  if (code === '23505') return new ZubrellError(TWICE[constraint] ?? 'THERE_ALREADY');
  if (code?.startsWith('22') || code?.startsWith('54')) return new ZubrellError('VALUE_UNKEPT');
  return null;
}

/**
 * What a foreign key misses, by the key's name: after its own table and columns stands the table that it asks. Very
 * long names are cut short by the database.
 */
function missingBy(constraint: string, table: string): ErrorCode {
  const rest = constraint.slice(table.length);
  const asked = Object.keys(MISSING)
    .map((name) => ({ name, end: rest.lastIndexOf(`_${name}_`) + name.length }))
    .filter(({ name, end }) => end >= name.length)
    .sort((a, b) => b.end - a.end || b.name.length - a.name.length)
    .map(({ name }) => name);
  // All keys of books begin with these, so they are what is missed only where nothing else is.
  const telling = asked.find((name) => name !== 'books') ?? asked[0];
  return MISSING[telling ?? ''] ?? 'NAMED_UNKNOWN';
}

/** What the system says of a server that is not there, and PostgreSQL of one that is going or coming. */
const AWAY_CODES: ReadonlySet<string> = new Set([
  ...['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND'],
  ...['57P01', '57P02', '57P03', '08000', '08001', '08003', '08004', '08006'],
]);
/** The client names these by their words alone. */
const AWAY_WORDS = /Connection terminated|Client has encountered a connection error|not queryable/;

/** Whether an error means that the database can't be reached: what was asked may be asked again when it is back. */
export function isDatabaseAway(error: unknown): boolean {
  const cause = causeOf(error);
  if (!(cause instanceof Error)) return false;
  const { code } = cause as { code?: unknown };
  return (typeof code === 'string' && AWAY_CODES.has(code)) || AWAY_WORDS.test(cause.message);
}

/** Whether an error means that all connections were taken for longer than one waits. */
function isPoolExhausted(error: unknown): boolean {
  const cause = causeOf(error);
  return cause instanceof Error && /timeout exceeded when trying to connect/.test(cause.message);
}

/** The database's own error behind that of a query. */
function causeOf(error: unknown): unknown {
  return error instanceof DrizzleQueryError ? error.cause : error;
}
