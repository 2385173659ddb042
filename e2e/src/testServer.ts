import { join } from 'node:path';
import { projectFolder } from '@zubrell/server/config';
import { serve } from '@zubrell/server/serve';
import { makeTestDatabase } from '@zubrell/server/testing/harness';

/** The whole application on a database of its own. */
export interface TestServer {
  readonly url: string;
  stop(): Promise<void>;
}

/** Serves the built web on an empty database. */
export async function startTestServer(): Promise<TestServer> {
  const { services, drop } = await makeTestDatabase();
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
      await drop();
    },
  };
}
