import { join } from 'node:path';
import { readMigrationFiles } from 'drizzle-orm/migrator';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate as runMigrations } from 'drizzle-orm/node-postgres/migrator';
import { runMigrations as migrateQueue } from 'graphile-worker';
import pg from 'pg';
import { projectFolder } from '../projectFolder.ts';
import type { DatabaseUrls } from './cluster.ts';
import { runtimeRole } from './roles.ts';

/** The folder of the migrations. */
export const migrationsFolder = join(projectFolder, 'server', 'drizzle');
/** Any number, the same for all: several servers may start on one database at once. */
const LOCK = 7_240_115;

/** Brings a database up to date: our tables as owner, the queue's as the runtime role. */
export async function migrate(urls: DatabaseUrls): Promise<void> {
  const client = new pg.Client({ connectionString: urls.owner });
  // Where it is lost, what was asked on it says so.
  client.on('error', () => undefined);
  await client.connect();
  try {
    await client.query('SELECT pg_advisory_lock($1)', [LOCK]);
    await checkBaseline(client);
    await runMigrations(drizzle(client), { migrationsFolder });
    // The queue makes its own schema, which takes a right that the program does not keep.
    const database = pg.escapeIdentifier(client.database ?? '');
    await client.query(`GRANT CREATE ON DATABASE ${database} TO ${runtimeRole}`);
    await migrateQueue({ connectionString: urls.background ?? urls.runtime });
    await client.query(`REVOKE CREATE ON DATABASE ${database} FROM ${runtimeRole}`);
  } finally {
    await client.end();
  }
}

/**
 * Migrations begin with a baseline; databases from before it can't be upgraded.
 *
 * @throws {Error} saying what to do instead
 */
async function checkBaseline(client: pg.Client): Promise<void> {
  const { rows: made } = await client.query(
    "SELECT to_regclass('drizzle.__drizzle_migrations') IS NOT NULL AS is_made",
  );
  if (made[0]?.is_made !== true) return;
  const { rows } = await client.query(
    'SELECT min(created_at) AS first FROM drizzle.__drizzle_migrations',
  );
  const [baseline] = readMigrationFiles({ migrationsFolder });
  const first = rows[0]?.first;
  if (!baseline || first === null || Number(first) >= baseline.folderMillis) return;
  throw new Error(
    'This database was made by an earlier version and can’t be upgraded. To start the demo over, run npm run demo -- --fresh. For books of your own, start with a new database and import their bank files and rules again.',
  );
}
