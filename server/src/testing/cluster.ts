import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { TestProject } from 'vitest/node';
import { buildServer } from '../build/buildServer.ts';
import { openCluster } from '../db/cluster.ts';

/** Builds the server, starts the throwaway cluster that all database tests share, and stops it after. */
export async function setup(project: TestProject): Promise<() => void> {
  const root = fileURLToPath(new URL('../../..', import.meta.url));
  const dataFolder = join(root, '.data', 'test');
  await buildServer();
  const cluster = await openCluster({ dataFolder, isThrowaway: true });
  project.provide('testDataFolder', dataFolder);
  return () => cluster.stop();
}
