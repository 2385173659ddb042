import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { clockFixedAt } from '@zubrell/server/clock';
import { projectFolder } from '@zubrell/server/config';
import { openCluster } from '@zubrell/server/db/cluster';
import { openDatabase } from '@zubrell/server/db/database';
import { migrate } from '@zubrell/server/db/migrate';
import { serve } from '@zubrell/server/serve';
import { testToday } from '@zubrell/server/testing/harness';
import { inject } from 'vitest';

/** The whole application on a database of its own. */
export interface TestServer {
  readonly url: string;
  stop(): Promise<void>;
}

/** Serves the built web on an empty database. */
export async function startTestServer(): Promise<TestServer> {
  const cluster = await openCluster({
    dataFolder: inject('testDataFolder'),
    isThrowaway: true,
  });
  const name = `test_${randomUUID().slice(0, 8)}`;
  const urls = await cluster.ensureDatabase(name);
  await migrate(urls);
  const services = { database: openDatabase(urls.runtime), clock: clockFixedAt(testToday) };
  const running = await serve(services, {
    port: 0,
    isSecure: false,
    demoEmail: null,
    webFolder: join(projectFolder, 'web', 'dist'),
    isLogging: false,
  });
  return {
    url: running.url,
    stop: async () => {
      await running.stop();
      await cluster.dropDatabase(name);
    },
  };
}
