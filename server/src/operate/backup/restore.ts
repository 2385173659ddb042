import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import pg from 'pg';
import { z } from 'zod';
import type { Outcome } from '../namedBooks.ts';
import { BackupNote, noteOf, sha256Of } from './backup.ts';
import { contentsOf, countBooks, differencesOf } from './contents.ts';
import { runPostgresTool } from './postgresTools.ts';

/**
 * Restores a backup into an empty database, wholly or not at all, and compares what came with what was backed up.
 *
 * @param url the database as somebody who may write everything, and give tables to the roles of the program
 */
export async function restore(url: string, file: string): Promise<Outcome> {
  const note = await checked(file);
  if (typeof note === 'string') return { lines: [note], code: 2 };
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    const inTheWay = await whatIsThere(client);
    if (inTheWay !== null) return { lines: [inTheWay], code: 2 };
    await runPostgresTool('pg_restore', url, [
      ...['--single-transaction', '--exit-on-error', '--dbname', client.database ?? '', file],
    ]);
    await client.query('analyze');
    await client.query('begin isolation level repeatable read read only');
    const differences = differencesOf(note.contents, await contentsOf(client));
    if (differences.length > 0) {
      return {
        lines: ['What was restored is not what was backed up. Please report this.', ...differences],
        code: 1,
      };
    }
    return {
      lines: [
        `Restored ${countBooks(note.contents)} as they were at ${note.at}: every table has as many rows, and each of the books the same balances, open lines and steps.`,
      ],
      code: 0,
    };
  } finally {
    await client.end();
  }
}

/** The note of a backup that is whole, or why it can't be restored. */
async function checked(file: string): Promise<z.infer<typeof BackupNote> | string> {
  if (!existsSync(file)) return `There is no file ${file}.`;
  if (!existsSync(noteOf(file))) {
    return `${noteOf(file)} is missing, by which ${file} is checked. Put it beside the backup.`;
  }
  const note = BackupNote.safeParse(parsed(await readFile(noteOf(file), 'utf8')));
  if (!note.success) return `${noteOf(file)} is not what a backup wrote. Use another backup.`;
  if ((await sha256Of(file)) !== note.data.sha256) {
    return `${file} was changed or damaged since it was written. Use another backup.`;
  }
  return note.data;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

const CountRow = z.object({ count: z.coerce.number() });

/** Why nothing can be restored into a database; null where it is empty. */
async function whatIsThere(client: pg.Client): Promise<string | null> {
  const { rows } = await client.query(
    `select count(*) from information_schema.tables
     where table_schema not in ('pg_catalog', 'information_schema')`,
  );
  if (CountRow.parse(rows[0]).count === 0) return null;
  return `The database ${client.database} is not empty, and nothing in it was changed. Restore into a new one: name it by ZUBRELL_DATABASE, or a new data folder by ZUBRELL_DATA.`;
}
