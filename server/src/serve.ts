import { setTimeout as pause } from 'node:timers/promises';
import { type AppOptions, buildApp } from './app.ts';
import { startWorker } from './jobs/worker.ts';
import { openReaderPool } from './modules/intake/readInThread.ts';
import { closeDatabases, type Services } from './services.ts';

/** A running server with its worker. */
export interface Running {
  readonly url: string;
  /**
   * Takes nothing more, answers what was asked, does the jobs that it has begun, and ends.
   *
   * @param most how long requests and jobs may still take, in milliseconds; what is not done then is given up: requests
   * are broken off and change nothing, jobs are given back
   */
  stop(most?: number): Promise<void>;
}

/** So long requests may take once the server is to stop, and then jobs, in milliseconds. */
const LEFT = 10_000;
/** And so long connections, which are there to be closed. */
const LAST = 2_000;

/** Serves on loopback or the given host, with a background worker in the same process. */
export async function serve(
  services: Services,
  options: Omit<AppOptions, 'own'> & { readonly port: number; readonly host?: string },
): Promise<Running> {
  const readers = openReaderPool();
  const worker = await startWorker(services, readers.readFile, { log: options.log });
  let isStopping = false;
  const own = { isWorking: () => worker.isWorking(), isStopping: () => isStopping };
  const app = await buildApp(services, { ...options, own });
  const url = await app.listen({ port: options.port, host: options.host ?? '127.0.0.1' });
  return {
    url,
    stop: async (most = LEFT) => {
      isStopping = true;
      const breakOff = setTimeout(() => app.server.closeAllConnections(), most);
      await app.close();
      clearTimeout(breakOff);
      await worker.stop(most);
      await readers.close();
      // What was given up holds its connection until the process ends.
      await Promise.race([closeDatabases(services), pause(LAST, null, { ref: false })]);
    },
  };
}
