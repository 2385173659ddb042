import { createHash } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { chmod, rename, rm, stat, writeFile } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import { z } from 'zod';
import type { Outcome } from '../namedBooks.ts';
import { Contents, contentsOf, countBooks } from './contents.ts';
import { runPostgresTool } from './postgresTools.ts';

/** What stands beside a backup, by which it is checked before and after it is restored. */
export const BackupNote = z.object({
  /** When the state that it holds was read, as a timestamp. */
  at: z.string(),
  /** The file's size in bytes, and its digest. */
  size: z.number(),
  sha256: z.string(),
  contents: Contents,
});

/** The name of the file beside a backup. */
export const noteOf = (file: string): string => `${file}.json`;

/**
 * Writes one state of the whole database into a file, attachments included, while servers go on; reads it back, and puts a
 * note beside it by which it can be checked. Nothing is left where it fails.
 *
 * @param url the database as somebody who may read everything
 */
export async function backUp(url: string, file: string): Promise<Outcome> {
  if (existsSync(file)) {
    return { lines: [`${file} is there already. Name a new file.`], code: 2 };
  }
  const part = `${file}.part`;
  try {
    const dumped = await dump(url, part);
    if (dumped === null) {
      return { lines: ['There are no books in the database: nothing was backed up.'], code: 2 };
    }
    const { at, contents } = dumped;
    // All of it is unpacked: a disk that lost something shows it now.
    await runPostgresTool('pg_restore', null, ['--file=/dev/null', part]);
    const { size } = await stat(part);
    const note = { at, size, sha256: await sha256Of(part), contents };
    await writeFile(noteOf(file), `${JSON.stringify(note, null, 1)}\n`, { mode: 0o600 });
    await rename(part, file);
    const rows = Object.values(contents.tables).reduce((sum, count) => sum + count, 0);
    const megabytes = (size / 1024 / 1024).toFixed(1);
    return {
      lines: [
        `Backed up ${countBooks(contents)}, ${rows} rows, into ${file} (${megabytes} MB), and read it back.`,
        `Keep ${noteOf(file)} with it: restoring checks against it.`,
        'The keys that open sealed secrets are not in it: keep ZUBRELL_KEYS, or the file keys of the data folder, elsewhere.',
      ],
      code: 0,
    };
  } catch (error) {
    await rm(noteOf(file), { force: true });
    throw error;
  } finally {
    await rm(part, { force: true });
  }
}

const MadeRow = z.object({ isMade: z.boolean() });

const SnapshotRow = z.object({ snapshot: z.string(), at: z.string() });

/** Dumps a state of the database, and says what it holds; null where no server has ever begun on it. */
async function dump(
  url: string,
  file: string,
): Promise<{ readonly at: string; readonly contents: Contents } | null> {
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    const made = await client.query(`select to_regclass('public.books') is not null as "isMade"`);
    if (!MadeRow.parse(made.rows[0]).isMade) return null;
    await client.query('begin isolation level repeatable read read only');
    const { rows } = await client.query(
      `select pg_export_snapshot() as snapshot, to_json(now()) #>> '{}' as at`,
    );
    const { snapshot, at } = SnapshotRow.parse(rows[0]);
    await runPostgresTool('pg_dump', url, [
      ...['--format=custom', `--snapshot=${snapshot}`, `--file=${file}`],
    ]);
    await chmod(file, 0o600);
    return { at, contents: await contentsOf(client) };
  } finally {
    await client.end();
  }
}

/** The digest of a file, in hexadecimal. */
export async function sha256Of(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}
