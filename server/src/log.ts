import { DrizzleQueryError } from 'drizzle-orm';
import pg from 'pg';
import { type Logger, pino, stdTimeFunctions } from 'pino';

/** How much is logged: with `info`, each request and job that ended. */
export const logLevels = ['error', 'warn', 'info', 'debug'] as const;
export type LogLevel = (typeof logLevels)[number];

/**
 * The server's log: a line of JSON for each event. Wording, amounts and secrets never come into it: what is logged is
 * named field by field, and of errors only what {@link errorFacts} tells.
 */
export type Log = Pick<Logger, 'error' | 'warn' | 'info'>;

/** Opens a log. @param stream where it goes; null is nowhere */
export function openLog(stream: NodeJS.WritableStream | null, level: LogLevel = 'info'): Logger {
  const options = {
    base: null,
    timestamp: stdTimeFunctions.isoTime,
    formatters: { level: (label: string) => ({ level: label }) },
  };
  return stream === null
    ? pino({ ...options, level: 'silent' })
    : pino({ ...options, level }, stream);
}

/** What is told of an error. */
export interface ErrorFacts {
  /** Its name. */
  readonly kind: string;
  /** Of an error of the database. */
  readonly sqlState?: string;
  readonly table?: string;
  readonly constraint?: string;
  /** The query that failed, with places for its values. */
  readonly query?: string;
  /** Where in the program it was thrown, the innermost first. */
  readonly stack: readonly string[];
  readonly cause?: ErrorFacts;
}

/** So much is told of a query, in characters, and of a stack, in calls. */
const LONGEST_QUERY = 400;
const DEEPEST_STACK = 12;
const DEEPEST_CAUSE = 4;

/** What may be told of an error that is a fault of ours: its message may quote what was asked for, and is left out. */
export function errorFacts(error: unknown, depth = 0): ErrorFacts {
  if (!(error instanceof Error)) return { kind: 'unknown', stack: [] };
  const ofDatabase = error instanceof pg.DatabaseError ? error : null;
  const hasCause = error.cause !== undefined && depth < DEEPEST_CAUSE;
  return {
    kind: error.name,
    ...(ofDatabase?.code === undefined ? {} : { sqlState: ofDatabase.code }),
    ...(ofDatabase?.table === undefined ? {} : { table: ofDatabase.table }),
    ...(ofDatabase?.constraint === undefined ? {} : { constraint: ofDatabase.constraint }),
    ...(error instanceof DrizzleQueryError
      ? { query: error.query.replace(/\s+/g, ' ').trim().slice(0, LONGEST_QUERY) }
      : {}),
    stack: callsOf(error),
    ...(hasCause ? { cause: errorFacts(error.cause, depth + 1) } : {}),
  };
}

/** The calls of an error's stack, without the message that stands above them. */
function callsOf({ stack = '', name, message }: Error): string[] {
  const head = `${name}: ${message}`;
  const calls = stack.startsWith(head) ? stack.slice(head.length) : stack;
  return calls
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => /^at .*:\d+:\d+\)?$/.test(line))
    .slice(0, DEEPEST_STACK)
    .map((line) => line.slice('at '.length));
}
