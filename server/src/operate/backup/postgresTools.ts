import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { postgresPrograms } from '../../db/cluster.ts';

const execute = promisify(execFile);
/** What the tools print at most, in bytes; they print nothing but what is wrong. */
const MOST_OUTPUT = 1024 * 1024;

/**
 * Runs `pg_dump` or `pg_restore`. The password stays out of its arguments, which others can see.
 *
 * @param url of the database; null where none is needed
 * @throws {Error} with what it printed
 */
export async function runPostgresTool(
  tool: 'pg_dump' | 'pg_restore',
  url: string | null,
  args: readonly string[],
): Promise<void> {
  const program = join(postgresPrograms(tool, 'postgresql-client'), tool);
  await execute(program, [...args], {
    env: { ...process.env, ...(url === null ? {} : connectionOf(url)) },
    maxBuffer: MOST_OUTPUT,
  }).catch((error: { readonly stderr?: string; readonly message: string }) => {
    throw new Error(`${tool} failed:\n${(error.stderr ?? '').trim() || error.message}`);
  });
}

/** The environment by which PostgreSQL's programs find a database. */
function connectionOf(url: string): NodeJS.ProcessEnv {
  const { hostname, port, username, password, pathname, searchParams } = new URL(url);
  const mode = searchParams.get('sslmode');
  return {
    PGHOST: hostname,
    PGPORT: port || '5432',
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
    ...(mode === null ? {} : { PGSSLMODE: mode }),
  };
}
