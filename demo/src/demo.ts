import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { dataFolder, projectFolder } from '@zubrell/server/config';
import { freePort, openCluster } from '@zubrell/server/db/cluster';
import { openDatabase } from '@zubrell/server/db/database';
import { migrate } from '@zubrell/server/db/migrate';
import { hasUsers } from '@zubrell/server/modules/session/sessions';
import { demoToday } from './scenario/files.ts';
import { demoEmail, seed } from './seed.ts';

// Starts the demo in the background and says where it is. Set-up was seen to by bin/demo.

const DATABASE = 'zubrell_demo';
const WANTED_PORT = 4310;
const PATIENCE = 60_000;

interface State {
  readonly pid: number;
  readonly url: string;
}

const { env } = process;
const data = dataFolder(env);
const stateFile = join(data, 'demo.json');
const logFile = join(data, 'demo.log');
const say = (words: string) => process.stdout.write(`${words}\n`);

const flags = new Set(process.argv.slice(2));
if (flags.has('--help')) {
  say('npm run demo [-- --fresh | --stop]\n  --fresh  start over\n  --stop   stop it');
} else if (flags.has('--stop')) {
  await stop();
  (await openCluster({ dataFolder: data })).stop();
  say('The demo is stopped. Its data stays until you start it with --fresh.');
} else await start();
process.exit(0);

async function start(): Promise<void> {
  const running = await alive();
  if (running && !flags.has('--fresh')) {
    announce(running.url);
    return;
  }
  await stop();
  const cluster = await openCluster({ dataFolder: data });
  if (flags.has('--fresh')) await cluster.dropDatabase(DATABASE);
  const urls = await cluster.ensureDatabase(DATABASE);
  await migrate(urls);
  const database = openDatabase(urls.runtime);
  if (!(await hasUsers(database))) {
    say('Loading the demo data …');
    try {
      await seed(database);
    } catch (error) {
      await database.$client.end();
      // Half a demo would look like a whole one next time.
      await cluster.dropDatabase(DATABASE);
      throw error;
    }
  }
  await database.$client.end();
  announce(await startServer(urls.runtime, urls.owner));
}

function announce(url: string): void {
  say(`\nZubrell runs with the demo data at ${url}\n`);
  say('Open it in a browser and press “Sign in as Mo Oakes”.');
  say(`It runs in the background (log: ${logFile}). To stop it: npm run demo -- --stop`);
}

/** The running demo, if there is one that answers. */
async function alive(): Promise<State | null> {
  if (!existsSync(stateFile)) return null;
  const state: State = JSON.parse(readFileSync(stateFile, 'utf8'));
  return (await answers(state.url)) ? state : null;
}

async function answers(url: string): Promise<boolean> {
  try {
    const answer = await fetch(`${url}/api/session`, { signal: AbortSignal.timeout(2_000) });
    const session: unknown = await answer.json();
    return typeof session === 'object' && session !== null && 'isDemo' in session;
  } catch {
    return false;
  }
}

async function stop(): Promise<void> {
  const state = await alive();
  rmSync(stateFile, { force: true });
  if (state === null) return;
  process.kill(state.pid, 'SIGTERM');
  for (let waited = 0; waited < 10_000 && (await answers(state.url)); waited += 100) {
    await new Promise((done) => setTimeout(done, 100));
  }
}

async function startServer(runtime: string, owner: string): Promise<string> {
  mkdirSync(data, { recursive: true });
  const log = openSync(logFile, 'w');
  const port = (await isFree(WANTED_PORT)) ? WANTED_PORT : await freePort();
  const server = spawn(
    process.execPath,
    ['--import', 'tsx', join(projectFolder, 'server', 'src', 'main.ts')],
    {
      cwd: projectFolder,
      detached: true,
      stdio: ['ignore', log, log],
      env: {
        ...env,
        PORT: String(port),
        DATABASE_URL: runtime,
        MIGRATION_DATABASE_URL: owner,
        ZUBRELL_TODAY: demoToday,
        ZUBRELL_DEMO_EMAIL: demoEmail,
      },
    },
  );
  const url = `http://127.0.0.1:${port}`;
  for (let waited = 0; !(await answers(url)); waited += 200) {
    if (server.exitCode !== null || waited > PATIENCE) {
      throw new Error(`The server does not start:\n${readFileSync(logFile, 'utf8')}`);
    }
    await new Promise((done) => setTimeout(done, 200));
  }
  server.unref();
  const state: State = { pid: server.pid ?? 0, url };
  writeFileSync(stateFile, JSON.stringify(state));
  return url;
}

async function isFree(port: number): Promise<boolean> {
  try {
    await fetch(`http://127.0.0.1:${port}/`, { signal: AbortSignal.timeout(1_000) });
    return false;
  } catch (error) {
    const cause = error instanceof Error ? (error.cause as { code?: string } | undefined) : null;
    return cause?.code === 'ECONNREFUSED';
  }
}
