import { clockFixedAt } from '../clock.ts';
import { startWorker } from '../jobs/worker.ts';
import { makeKey, openSecrets } from '../secrets.ts';
import { openDatabases } from '../services.ts';
import { testToday } from './today.ts';

/** A server's worker that never comes to an end with a file: for tests that kill it, or tell it to stop. */
const [url = ''] = process.argv.slice(2);
const services = {
  ...openDatabases(url),
  clock: clockFixedAt(testToday),
  connectors: new Map(),
  watchFolder: null,
  secrets: openSecrets([makeKey()]),
};
const hang = () => new Promise<never>(() => setInterval(() => undefined, 1_000));
const worker = await startWorker(services, hang, { lookAfter: 300, grace: 500 });
process.on('SIGTERM', () => void worker.stop(200).then(() => process.exit(0)));
