import { join } from 'node:path';
import { clockOf, connectorsOf, dataFolder, listOf, openDatabaseOf } from './config.ts';
import { keepDay } from './db/fixedDay.ts';
import { migrate } from './db/migrate.ts';
import { patiently } from './db/patiently.ts';
import { roleProblem } from './db/roleProblem.ts';
import { errorFacts, type LogLevel, openLog } from './log.ts';
import { resealConsents } from './modules/feeds/resealConsents.ts';
import { resealFactors } from './modules/session/resealFactors.ts';
import { openSetUp } from './modules/session/setUp.ts';
import { projectFolder } from './projectFolder.ts';
import { keysOf, openSecrets } from './secrets.ts';
import { serve } from './serve.ts';
import { openDatabases } from './services.ts';
import { settingsProblems } from './settings.ts';

const DEFAULT_PORT = 4310;

const { env } = process;
const say = (words: string) => process.stdout.write(`${words}\n`);

/** Ends the process with what keeps it from running; whoever starts it can mend that. */
function refuse(problems: readonly string[]): never {
  process.stderr.write(`Zubrell can’t start:\n${problems.map((each) => `  ${each}\n`).join('')}`);
  process.exit(2);
}

async function start(): Promise<void> {
  const problems = settingsProblems(env);
  if (problems.length > 0) refuse(problems);
  const log = openLog(process.stdout, env.ZUBRELL_LOG as LogLevel | undefined);
  const { urls, cluster } = await patiently(() => openDatabaseOf(env));
  const leaveCluster = cluster?.keepRunning();
  await patiently(() => migrate(urls));
  const clock = clockOf(env);
  const services = {
    ...openDatabases(urls.runtime, undefined, urls.background),
    clock,
    connectors: connectorsOf(env, clock),
    watchFolder: env.ZUBRELL_WATCH ?? null,
    secrets: openSecrets(keysOf(env, dataFolder(env))),
  };
  const wrongRole = await patiently(() => roleProblem(services.background));
  if (wrongRole !== null) refuse([wrongRole]);
  await patiently(() => keepDay(urls, env.ZUBRELL_TODAY ?? null));
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
    log,
    metricsToken: env.ZUBRELL_METRICS_TOKEN ?? null,
  });
  say(`Zubrell is at ${running.url}`);
  const code = await patiently(() => openSetUp(services.database));
  if (code !== null) say(`The first user needs this set-up code: ${code}`);

  let isStopping = false;
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      if (isStopping) return;
      isStopping = true;
      log.info({ signal }, 'stopping');
      leaveCluster?.();
      running.stop().then(
        () => process.exit(0),
        (error) => {
          log.error({ error: errorFacts(error) }, 'stopping failed');
          process.exit(1);
        },
      );
    });
  }
}

await start().catch((error) => {
  const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  if (taken) {
    refuse([
      `PORT ${env.PORT ?? DEFAULT_PORT} is in use. Stop what listens there, or set another.`,
    ]);
  }
  refuse([error instanceof Error ? error.message : String(error)]);
});
