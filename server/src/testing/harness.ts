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
  }
}

/** Makes a migrated, empty database of the tests' cluster. */
export async function makeTestDatabase(): Promise<TestDatabase> {
  const dataFolder = inject('testDataFolder');
  return makeDatabaseIn(await openCluster({ dataFolder, isThrowaway: true }));
}

/** Starts a server with its worker on a new database. */
export async function startHarness(changed: ChangedServices = {}): Promise<Harness> {
  return startOn(await makeTestDatabase(), changed);
}
