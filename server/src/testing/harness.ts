import { inject } from 'vitest';
import { openCluster } from '../db/cluster.ts';
import {
  type ChangedServices,
  type Harness,
  makeDatabaseIn,
  startOn,
  type TestDatabase,
} from './testServer.ts';

declare module 'vitest' {
  interface ProvidedContext {
    testDataFolder: string;
    /** A migrated, empty database that others are copied from. */
    testTemplate: string;
  }
}

/** Makes a migrated, empty database of the tests' cluster. */
export async function makeTestDatabase(): Promise<TestDatabase> {
  const dataFolder = inject('testDataFolder');
  const cluster = await openCluster({ dataFolder, isThrowaway: true });
  return makeDatabaseIn(cluster, inject('testTemplate'));
}

/** Starts a server with its worker on a new database. */
export async function startHarness(changed: ChangedServices = {}): Promise<Harness> {
  return startOn(await makeTestDatabase(), changed);
}
