import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { administratorOf, clockOf, openDatabaseOf } from '../config.ts';
import { openBackground } from '../db/database.ts';
import { migrate } from '../db/migrate.ts';
import { backUp } from './backup/backup.ts';
import { restore } from './backup/restore.ts';
import type { Outcome } from './namedBooks.ts';
import { rebuild } from './rebuild.ts';
import { resetLink } from './resetLink.ts';
import { verify } from './verify.ts';

// What whoever runs the server does with its database from the command line.

const USAGE = `usage: zubrell verify BOOKS [--since HASH]
       zubrell rebuild BOOKS
       zubrell reset-link EMAIL [--without-second-factor]
       npm run backup -- FILE
       npm run restore -- FILE`;

/** What is wanted; null where the words are no command. */
function wanted() {
  try {
    const { positionals, values } = parseArgs({
      allowPositionals: true,
      options: {
        since: { type: 'string' },
        'without-second-factor': { type: 'boolean', default: false },
      },
    });
    const [command, name, ...more] = positionals;
    if (name === undefined || more.length > 0) return null;
    // Files are named as seen from where the command was given.
    const file = resolve(process.env.INIT_CWD ?? '.', name);
    return { command, name, file, ...values };
  } catch {
    return null;
  }
}

async function run(): Promise<Outcome> {
  const asked = wanted();
  if (asked === null) return { lines: [USAGE], code: 2 };
  // The whole database, as it is: nothing is migrated before.
  if (asked.command === 'backup') return backUp(await administratorOf(process.env), asked.file);
  if (asked.command === 'restore') return restore(await administratorOf(process.env), asked.file);
  const { urls } = await openDatabaseOf(process.env);
  await migrate(urls);
  const owner = openBackground(urls.owner, 2);
  const program = openBackground(urls.runtime, 1);
  try {
    switch (asked.command) {
      case 'verify':
        return await verify(owner, asked.name, asked.since ?? null);
      case 'rebuild':
        return await rebuild(owner, program, asked.name);
      default:
        return await resetLink(
          owner,
          { clock: clockOf(process.env) },
          asked.name,
          asked['without-second-factor'],
        );
    }
  } finally {
    await owner.$client.end();
    await program.$client.end();
  }
}

/** What went wrong, in words, for whoever runs the server: without the places in the program. */
const wordsOf = (error: unknown): Outcome => ({
  lines: [error instanceof Error ? error.message : String(error)],
  code: 2,
});

const { lines, code } = await run().catch(wordsOf);
process.stdout.write(`${lines.join('\n')}\n`);
process.exitCode = code;
