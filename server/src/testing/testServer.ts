import { randomUUID } from 'node:crypto';
import { buildApp } from '../app.ts';
import { clockFixedAt } from '../clock.ts';
import type { Cluster, DatabaseUrls } from '../db/cluster.ts';
import { type Database, openBackground } from '../db/database.ts';
import { keepDay } from '../db/fixedDay.ts';
import { keptWrong } from '../db/keptTables.ts';
import { migrate } from '../db/migrate.ts';
import type { Api } from '../http/api.ts';
import { startWorker } from '../jobs/worker.ts';
import { openReaderPool } from '../modules/intake/readInThread.ts';
import { createUser, openSession } from '../modules/session/sessions.ts';
import { makeKey, openSecrets } from '../secrets.ts';
import { closeDatabases, openDatabases, type Services } from '../services.ts';
import { type Client, clientOf } from './client.ts';
import { plainApp } from './plainApp.ts';
import { testToday } from './today.ts';

/** A server on a database of its own, used through the runtime role. */
export interface Harness {
  readonly app: Api;
  readonly database: Database;
  readonly urls: DatabaseUrls;
  readonly services: Services;
  /** Signs a new user in. */
  signIn(name: string): Promise<Client>;
  stop(): Promise<void>;
}

/** A new database of the tests' cluster, with what commands work with. */
export interface TestDatabase {
  readonly urls: DatabaseUrls;
  readonly services: Services;
  drop(): Promise<void>;
}

/**
 * Makes a migrated, empty database in a cluster, used through the runtime role.
 *
 * @param template a migrated one that it is copied from, which is quicker
 */
export async function makeDatabaseIn(cluster: Cluster, template?: string): Promise<TestDatabase> {
  const made = await databaseIn(cluster, `test_${randomUUID().slice(0, 8)}`, template);
  if (template === undefined) await migrate(made.urls);
  await keepDay(made.urls, testToday);
  return made;
}

/** A database of a cluster as it is; where there is none by that name, an empty one or a copy of a template. */
export async function databaseIn(
  cluster: Cluster,
  name: string,
  template?: string,
): Promise<TestDatabase> {
  const urls = await cluster.ensureDatabase(name, template);
  const services: Services = {
    ...openDatabases(urls.runtime, 8),
    clock: clockFixedAt(testToday),
    connectors: new Map(),
    watchFolder: null,
    secrets: openSecrets([makeKey()]),
  };
  return { urls, services, drop: () => cluster.dropDatabase(name) };
}

/** Services that a test puts its own in the place of. */
export type ChangedServices = Partial<Pick<Services, 'clock' | 'connectors' | 'watchFolder'>>;

/** Starts a server with its worker on a database, which goes with it. */
export async function startOn(made: TestDatabase, changed: ChangedServices = {}): Promise<Harness> {
  const { urls, drop } = made;
  const services = { ...made.services, ...changed };
  const { database } = services;
  const readers = openReaderPool();
  const worker = await startWorker(services, readers.readFile);
  const app = await buildApp(services, plainApp);

  async function signIn(userName: string): Promise<Client> {
    const email = `${randomUUID()}@example.test`;
    const user = await createUser(database, services, {
      name: userName,
      email,
      password: 'long enough',
    });
    const session = await openSession(database, services, user.id);
    return clientOf(app, user.id, session);
  }

  return {
    app,
    database,
    urls,
    services,
    signIn,
    stop: async () => {
      await app.close();
      await worker.stop();
      await readers.close();
      await closeDatabases(services);
      const wrong = await keptWrongIn(urls);
      await drop();
      if (wrong.length > 0) throw new Error(`The database keeps wrong: ${wrong.join(', ')}`);
    },
  };
}

/** Whatever a test did, the database has kept up its lists. */
async function keptWrongIn({ owner: url }: TestDatabase['urls']): Promise<readonly string[]> {
  const owner = openBackground(url, 1);
  try {
    return await keptWrong(owner, null);
  } finally {
    await owner.$client.end();
  }
}
