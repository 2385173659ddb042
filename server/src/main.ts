import { join } from 'node:path';
import { clockOf, connectorsOf, dataFolder, listOf, openDatabaseOf } from './config.ts';
import { keepDay } from './db/fixedDay.ts';
import { migrate } from './db/migrate.ts';
import { patiently } from './db/patiently.ts';
import { resealConsents } from './modules/feeds/resealConsents.ts';
import { resealFactors } from './modules/session/resealFactors.ts';
import { openSetUp } from './modules/session/setUp.ts';
import { projectFolder } from './projectFolder.ts';
import { keysOf, openSecrets } from './secrets.ts';
import { serve } from './serve.ts';
import { openDatabases } from './services.ts';

const DEFAULT_PORT = 4310;

const { env } = process;
const { urls, cluster } = await patiently(() => openDatabaseOf(env));
const leaveCluster = cluster?.keepRunning();
await patiently(() => migrate(urls));
await patiently(() => keepDay(urls, env.ZUBRELL_TODAY ?? null));
const services = {
  ...openDatabases(urls.runtime),
  clock: clockOf(env),
  connectors: connectorsOf(env),
  secrets: openSecrets(keysOf(env, dataFolder(env))),
};
await patiently(() => resealConsents(services));
await patiently(() => resealFactors(services));
const running = await serve(services, {
  port: Number(env.PORT ?? DEFAULT_PORT),
  ...(env.HOST === undefined ? {} : { host: env.HOST }),
  isSecure: env.ZUBRELL_HTTPS === 'yes',
  hosts: listOf(env.ZUBRELL_HOSTS),
  trustedProxies: listOf(env.ZUBRELL_TRUSTED_PROXIES),
  demoEmail: env.ZUBRELL_DEMO_EMAIL ?? null,
  webFolder: join(projectFolder, 'web', 'dist'),
  log: process.stdout,
});
process.stdout.write(`Zubrell is at ${running.url}\n`);
const code = await patiently(() => openSetUp(services.database));
if (code !== null) process.stdout.write(`The first user needs this set-up code: ${code}\n`);

let isStopping = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    if (isStopping) return;
    isStopping = true;
    leaveCluster?.();
    running.stop().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  });
}
