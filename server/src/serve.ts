import { type AppOptions, buildApp } from './app.ts';
import { startWorker } from './jobs/worker.ts';
import { openReaderPool } from './modules/intake/readInThread.ts';
import { closeDatabases, type Services } from './services.ts';

/** A running server with its worker. */
export interface Running {
  readonly url: string;
  stop(): Promise<void>;
}

/** Serves on loopback or the given host, with a background worker in the same process. */
export async function serve(
  services: Services,
  options: AppOptions & { readonly port: number; readonly host?: string },
): Promise<Running> {
  const readers = openReaderPool();
  const worker = await startWorker(services, readers.readFile);
  const app = await buildApp(services, options);
  const url = await app.listen({ port: options.port, host: options.host ?? '127.0.0.1' });
  return {
    url,
    stop: async () => {
      await app.close();
      await worker.stop();
      await readers.close();
      await closeDatabases(services);
    },
  };
}
