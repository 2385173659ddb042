import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Clock, clockFixedAt, machineClock } from './clock.ts';
import { type DatabaseUrls, openCluster } from './db/cluster.ts';
import type { BankConnector } from './modules/feeds/connector.ts';
import { practiceConnector } from './modules/feeds/practiceConnector.ts';

/** The project's own folder. */
export const projectFolder = fileURLToPath(new URL('../..', import.meta.url));

/** Where the project keeps its data, unless `ZUBRELL_DATA` says otherwise. */
export function dataFolder(env: NodeJS.ProcessEnv): string {
  return env.ZUBRELL_DATA ?? join(projectFolder, '.data');
}

/**
 * The database to use: `DATABASE_URL` (the runtime role) with `MIGRATION_DATABASE_URL` (the owner),
 * or a database of the own cluster.
 */
export async function databaseUrls(env: NodeJS.ProcessEnv, name: string): Promise<DatabaseUrls> {
  const { DATABASE_URL: runtime, MIGRATION_DATABASE_URL: owner } = env;
  if (runtime === undefined) {
    const cluster = await openCluster({ dataFolder: dataFolder(env) });
    return cluster.ensureDatabase(name);
  }
  if (owner === undefined) {
    throw new Error('With DATABASE_URL, MIGRATION_DATABASE_URL is needed too: see docs/running.md');
  }
  return { runtime, owner };
}

/** The clock: fixed where `ZUBRELL_TODAY` names a day, as in the demo. */
export function clockOf(env: NodeJS.ProcessEnv): Clock {
  return env.ZUBRELL_TODAY === undefined ? machineClock : clockFixedAt(env.ZUBRELL_TODAY);
}

/** The banks that lines can be fetched from: the practice bank, where `PRACTICE_BANK_URL` names it. */
export function connectorsOf(env: NodeJS.ProcessEnv): Map<string, BankConnector> {
  const { PRACTICE_BANK_URL: url, PRACTICE_BANK_NAME: name = 'Practice bank' } = env;
  return new Map(url === undefined ? [] : [['practice', practiceConnector(url, name)]]);
}
