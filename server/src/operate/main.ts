import { parseArgs } from 'node:util';
import { clockOf, openDatabaseOf } from '../config.ts';
import { openBackground } from '../db/database.ts';
import { migrate } from '../db/migrate.ts';
import type { Outcome } from './namedBooks.ts';
import { rebuild } from './rebuild.ts';
import { resetLink } from './resetLink.ts';
import { verify } from './verify.ts';

// What whoever runs the server does with its database from the command line.

const USAGE = `usage: zubrell verify BOOKS [--since HASH]
       zubrell rebuild BOOKS
       zubrell reset-link EMAIL [--without-second-factor]`;

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
    return name !== undefined && more.length === 0 ? { command, name, ...values } : null;
  } catch {
    return null;
  }
}

async function run(): Promise<Outcome> {
  const asked = wanted();
  if (asked === null) return { lines: [USAGE], code: 2 };
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

const { lines, code } = await run();
process.stdout.write(`${lines.join('\n')}\n`);
process.exitCode = code;
