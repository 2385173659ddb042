import { once } from 'node:events';
import type { Readable, Writable } from 'node:stream';
import { finished } from 'node:stream/promises';
import type { BooksId, UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import {
  drizzle,
  type NodePgDatabase,
  NodePgSession,
  NodePgTransaction,
} from 'drizzle-orm/node-postgres';
import { PgDialect } from 'drizzle-orm/pg-core';
import pg from 'pg';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import { z } from 'zod';

// Amounts and counts come as numbers; they are safe integers by the core's own limits.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

/** A database as the running program sees it. */
export type Database = NodePgDatabase & { readonly $client: pg.Pool };

/** A transaction in which one books' rows, and no others, are there. */
export type Tx = Parameters<Parameters<Database['transaction']>[0]>[0];

/** A transaction with the books whose rows it sees. A command is one. */
export interface BooksTx {
  readonly tx: Tx;
  readonly booksId: BooksId;
}

/** How long the connections of a pool may wait and work, in milliseconds; 0 is without end. */
export interface Patience {
  /** For a free connection. */
  readonly connection: number;
  /** For a row that others hold, as the commands before on the same books. */
  readonly lock: number;
  readonly statement: number;
  /** Within a transaction while nothing is asked. */
  readonly idle: number;
}

/** For requests: somebody waits, and a connection that waits is taken from all others. */
const REQUESTS: Patience = { connection: 5_000, lock: 4_000, statement: 60_000, idle: 30_000 };
/** For jobs: large files take their time, and nobody is kept from anything. */
const JOBS: Patience = { connection: 60_000, lock: 0, statement: 0, idle: 600_000 };

const ignore = () => undefined;

/** Opens a pool of connections. */
export function openDatabase(
  url: string,
  connections = 10,
  patience: Patience = REQUESTS,
): Database {
  const pool = new pg.Pool({
    connectionString: url,
    max: connections,
    connectionTimeoutMillis: patience.connection,
    lock_timeout: patience.lock,
    statement_timeout: patience.statement,
    idle_in_transaction_session_timeout: patience.idle,
    // What is asked without waiting for the answer before goes at once: see `together`.
    pipeline: true,
  });
  // A lost idle connection is replaced at the next query; it must not end the server.
  pool.on('error', ignore);
  pool.on('connect', (client) => client.on('error', ignore));
  return drizzle(pool);
}

/** Opens a pool for the queue, its jobs and what watches over the server: requests can't use it up. */
export function openBackground(url: string, connections = 10): Database {
  return openDatabase(url, connections, JOBS);
}

const dialect = new PgDialect();

/** A connection, with how patient its pool is. */
interface Connected {
  readonly client: pg.Client;
  readonly options: pg.PoolOptions;
}

/**
 * A connection for one transaction, which takes no more queries when that is over: one that comes late would be part of
 * the next transaction, of other books.
 */
function forOne(client: pg.Client): { readonly client: pg.Client; end(): void } {
  let isOver = false;
  const query = (...asked: unknown[]): unknown => {
    if (isOver) throw new Error('A query came after its transaction was over');
    return Reflect.apply(client.query, client, asked);
  };
  return {
    client: Object.create(client, { query: { value: query } }),
    end: () => {
      isOver = true;
    },
  };
}

/**
 * Runs work in one transaction on a connection, which begins and gets its settings in one go.
 *
 * Besides those that are given it is set how patient the pool is; that no query is compiled first, which takes a second
 * where the planner guesses wide, and none of ours runs for long; and that a row found by an index costs hardly more than
 * the next one, as on disks without moving parts: else a month's lines are looked for among all. A pooler between here and
 * the database keeps no such setting for longer.
 *
 * @param own its settings of its own
 * @param level how it sees what others change meanwhile
 */
async function inTransaction<T>(
  { client, options }: Connected,
  own: Readonly<Record<string, string>>,
  work: (tx: Tx) => Promise<T>,
  level: 'read committed' | 'repeatable read' = 'read committed',
): Promise<T> {
  const one = forOne(client);
  const tx: Tx = new NodePgTransaction(
    dialect,
    new NodePgSession<Record<string, never>, Record<string, never>>(one.client, dialect, undefined),
    undefined,
  );
  const settings = {
    ...own,
    lock_timeout: String(options.lock_timeout ?? 0),
    statement_timeout: String(options.statement_timeout ?? 0),
    idle_in_transaction_session_timeout: String(options.idle_in_transaction_session_timeout ?? 0),
    jit: 'off',
    random_page_cost: '1.1',
  };
  const set = Object.entries(settings).map(
    ([name, value]) => `set_config('${name}', ${pg.escapeLiteral(value)}, true)`,
  );
  try {
    await tx.execute(sql.raw(`begin isolation level ${level}; select ${set.join(', ')}`));
    const result = await work(tx);
    await tx.execute(sql`commit`);
    return result;
  } catch (error) {
    // On a lost connection there is nothing to roll back, and the first error says why.
    await tx.execute(sql`rollback`).catch(() => undefined);
    throw error;
  } finally {
    one.end();
  }
}

/** What is asked already: a query of drizzle's begins when somebody waits for it, and again with each who does. */
type Asked = Promise<unknown> & { readonly execute?: never };

/**
 * Waits for queries of one transaction that don't need each other's answers, or for work that begins with one. They go to
 * the database at once, which answers them in the order in which they were asked: what is written by one the next one sees.
 * Those of work that asks several come whenever they come.
 *
 * Unlike `Promise.all` it waits for all of them where one fails, so that none is left when the transaction ends.
 *
 * @throws what the first that failed threw
 * @example const [books, accounts] = await together(booksOf(tx), accountsOf(tx));
 */
export async function together<const Work extends readonly Asked[]>(
  ...work: Work
): Promise<{ -readonly [At in keyof Work]: Awaited<Work[At]> }> {
  try {
    return await Promise.all(work);
  } finally {
    await Promise.allSettled(work);
  }
}

/** Runs work with a connection of the pool, which is given back. */
async function connected<T>(
  { $client }: Database,
  work: (connection: Connected) => Promise<T>,
): Promise<T> {
  const client = await $client.connect();
  try {
    return await work({ client, options: $client.options });
  } finally {
    client.release();
  }
}

const theBooks = (booksId: BooksId) => ({ 'app.books_id': booksId });

/** Runs work in one transaction that sees these books only. */
export function inBooks<T>(
  database: Database,
  booksId: BooksId,
  work: (tx: Tx) => Promise<T>,
): Promise<T> {
  return connected(database, (connection) => inTransaction(connection, theBooks(booksId), work));
}

/** Starts a COPY, until whose end no query is sent ahead. */
export function copying<Stream extends Readable | Writable>(
  client: pg.Client,
  copy: Stream & pg.Submittable,
): Stream {
  Object.assign(client, { pipeline: false });
  const sendAhead = () => Object.assign(client, { pipeline: true });
  const stream = client.query(copy);
  finished(stream).then(sendAhead, sendAhead);
  return stream;
}

/** A COPY under way. */
export interface CopyIn {
  /** Sends rows in PostgreSQL's text format; done when more can come. */
  write(rows: Uint8Array): Promise<void>;
  /** All rows are sent. */
  end(): Promise<void>;
  /** Gives up: the transaction is lost. */
  abort(error: Error): void;
}

/**
 * Starts a COPY in a transaction, which can do nothing else until it ends.
 *
 * @param options how rows come, where not in PostgreSQL's text format. @example 'format csv, header'
 */
export type OpenCopy = (into: string, options?: string) => CopyIn;

/** Like {@link inBooks}, with COPY into tables of the same transaction. */
export function inBooksCopying<T>(
  database: Database,
  booksId: BooksId,
  work: (tx: Tx, openCopy: OpenCopy) => Promise<T>,
): Promise<T> {
  return connected(database, (connection) => {
    const { client } = connection;
    const openCopy: OpenCopy = (into, options) => {
      const how = options === undefined ? '' : ` with (${options})`;
      const stream = copying(client, copyFrom(`copy ${into} from stdin${how}`));
      const ended = finished(stream);
      ended.catch(() => undefined);
      return {
        async write(rows) {
          if (!stream.write(rows)) await Promise.race([once(stream, 'drain'), ended]);
        },
        async end() {
          stream.end();
          await ended;
        },
        abort: (error) => void stream.destroy(error),
      };
    };
    return inTransaction(connection, theBooks(booksId), (tx) => work(tx, openCopy));
  });
}

/** Runs work in one transaction that can list the books of a user. */
export function asUser<T>(
  database: Database,
  userId: UserId,
  work: (tx: Tx) => Promise<T>,
): Promise<T> {
  return connected(database, (connection) =>
    inTransaction(connection, { 'app.user_id': userId }, work),
  );
}

/**
 * Rows of a hand-written query, each parsed by the schema of its columns. A column that the schema does not name is
 * left out.
 *
 * @throws {Error} where the database answers otherwise than the schema says: which columns, without their values
 */
export async function rowsOf<Row extends z.ZodType>(
  tx: Tx | Database,
  row: Row,
  query: ReturnType<typeof sql>,
): Promise<z.output<Row>[]> {
  const { rows } = await tx.execute(query);
  const parsed = z.array(row).safeParse(rows);
  if (parsed.success) return parsed.data;
  const faults = parsed.error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`);
  throw new Error(`Rows of a query are not what they should be: ${faults.slice(0, 5).join('; ')}`);
}

/** Runs a hand-written command at once. */
export async function execute(tx: Tx | Database, command: ReturnType<typeof sql>): Promise<void> {
  await tx.execute(command);
}

/** How many rows a hand-written query finds, or a command changes. */
export async function countRows(tx: Tx | Database, query: ReturnType<typeof sql>): Promise<number> {
  const { rowCount } = await tx.execute(query);
  return rowCount ?? 0;
}

/** Reads a table of the transaction as a CSV file with headings. The transaction can do nothing else until it ends. */
export type CopyOut = (table: string) => Readable;

/** Runs work like {@link inBooks}, all of which sees the books as they were when it began, and can read tables as files. */
export function inBooksStill<T>(
  database: Database,
  booksId: BooksId,
  work: (tx: Tx, copyOut: CopyOut) => Promise<T>,
): Promise<T> {
  return connected(database, (connection) => {
    const copyOut: CopyOut = (table) =>
      copying(connection.client, copyTo(`copy ${table} to stdout with (format csv, header)`));
    const reading = (tx: Tx) => work(tx, copyOut);
    return inTransaction(connection, theBooks(booksId), reading, 'repeatable read');
  });
}
