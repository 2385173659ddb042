import { join } from 'node:path';
import { type Clock, clockFixedAt, machineClock } from './clock.ts';
import { accountInformationConnector } from './connectors/accountInformationConnector.ts';
import type { BankConnector } from './connectors/connector.ts';
import { practiceConnector } from './connectors/practiceConnector.ts';
import { standardBanksOf } from './connectors/standardBanks.ts';
import { type Cluster, type DatabaseUrls, openCluster } from './db/cluster.ts';
import { projectFolder } from './projectFolder.ts';

/** Where the project keeps its data, unless `ZUBRELL_DATA` says otherwise. */
export function dataFolder(env: NodeJS.ProcessEnv): string {
  return env.ZUBRELL_DATA ?? join(projectFolder, '.data');
}

const DEFAULT_DATABASE = 'zubrell';

/** What is wrong where `DATABASE_URL` is set alone. */
export const OWNER_NEEDED =
  'With DATABASE_URL, MIGRATION_DATABASE_URL is needed too: the same database as its owner.';

/** A database to use, and its cluster where that is our own. */
export interface OpenedDatabase {
  readonly urls: DatabaseUrls;
  readonly cluster: Cluster | null;
}

/**
 * The database to use: `DATABASE_URL` (the runtime role) with `MIGRATION_DATABASE_URL` (the owner) and, where the first
 * goes through a pooler, `BACKGROUND_DATABASE_URL` (the runtime role past it),
 * or a database of the own cluster, by the name in `ZUBRELL_DATABASE`.
 */
export async function openDatabaseOf(env: NodeJS.ProcessEnv): Promise<OpenedDatabase> {
  const { DATABASE_URL: runtime, MIGRATION_DATABASE_URL: owner } = env;
  if (runtime === undefined) {
    const cluster = await openCluster({ dataFolder: dataFolder(env) });
    return {
      urls: await cluster.ensureDatabase(env.ZUBRELL_DATABASE ?? DEFAULT_DATABASE),
      cluster,
    };
  }
  if (owner === undefined) {
    throw new Error(OWNER_NEEDED);
  }
  const background = env.BACKGROUND_DATABASE_URL;
  return {
    urls: { runtime, owner, ...(background === undefined ? {} : { background }) },
    cluster: null,
  };
}

/**
 * The database as somebody who may read and write everything: `BACKUP_DATABASE_URL` where `DATABASE_URL` is set, else the
 * own cluster's administrator.
 */
export async function administratorOf(env: NodeJS.ProcessEnv): Promise<string> {
  if (env.DATABASE_URL === undefined) {
    const cluster = await openCluster({ dataFolder: dataFolder(env) });
    const name = env.ZUBRELL_DATABASE ?? DEFAULT_DATABASE;
    await cluster.ensureDatabase(name);
    return cluster.administrator(name);
  }
  if (env.BACKUP_DATABASE_URL === undefined) {
    throw new Error(
      'With DATABASE_URL, BACKUP_DATABASE_URL is needed too: the same database as a role that may read everything, see docs/running.md',
    );
  }
  return env.BACKUP_DATABASE_URL;
}

/** The clock: fixed where `ZUBRELL_TODAY` names a day, as in the demo. */
export function clockOf(env: NodeJS.ProcessEnv): Clock {
  return env.ZUBRELL_TODAY === undefined ? machineClock : clockFixedAt(env.ZUBRELL_TODAY);
}

/**
 * The banks that lines can be fetched from: those listed in the file `ZUBRELL_BANKS`, and the practice bank, where
 * `PRACTICE_BANK_URL` names it.
 *
 * @throws {Error} saying what is wrong with the list
 */
export function connectorsOf(env: NodeJS.ProcessEnv, clock: Clock): Map<string, BankConnector> {
  const { PRACTICE_BANK_URL: url, PRACTICE_BANK_NAME: name = 'Practice bank' } = env;
  const today = () => clock.today();
  const banks = env.ZUBRELL_BANKS === undefined ? [] : standardBanksOf(env.ZUBRELL_BANKS);
  const listed = [...banks].map(
    ([bank, how]) => [bank, accountInformationConnector(how, today)] as const,
  );
  const practice = url === undefined ? [] : [['practice', practiceConnector(url, name)] as const];
  return new Map([...practice, ...listed]);
}

/** What a setting lists, separated by commas. */
export function listOf(setting: string | undefined): string[] {
  return (setting ?? '')
    .split(',')
    .map((each) => each.trim().toLowerCase())
    .filter((each) => each !== '');
}
