import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { TestProject } from 'vitest/node';
import { buildServer } from '../build/buildServer.ts';
import { openCluster } from '../db/cluster.ts';
import { migrate } from '../db/migrate.ts';

/** What every test's database is copied from. */
const TEMPLATE = 'test_template';

/**
 * Builds the server, starts the throwaway cluster that all database tests share with a database that theirs are copied
 * from, and stops it after.
 */
export async function setup(project: TestProject): Promise<() => void> {
  const root = fileURLToPath(new URL('../../..', import.meta.url));
  const dataFolder = join(root, '.data', 'test');
  await buildServer();
  const cluster = await openCluster({ dataFolder, isThrowaway: true });
  await cluster.dropDatabase(TEMPLATE);
  await migrate(await cluster.ensureDatabase(TEMPLATE));
  project.provide('testDataFolder', dataFolder);
  project.provide('testTemplate', TEMPLATE);
  return () => cluster.stop();
}
