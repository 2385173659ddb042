import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { dataFolder } from '@zubrell/server/config';
import { openCluster } from '@zubrell/server/db/cluster';
import { openBackground } from '@zubrell/server/db/database';
import { migrate } from '@zubrell/server/db/migrate';
import { hasUsers } from '@zubrell/server/modules/session/sessions';
import { keysOf, openSecrets } from '@zubrell/server/secrets';
import { answers, type Background, endBackground, startInBackground } from './processes.ts';
import { demoToday } from './scenario/files.ts';
import { practiceBankName, practiceRecords } from './scenario/practiceRecords.ts';
import { demoEmail, seed } from './seed.ts';

// Starts the demo in the background and says where it is. Set-up was seen to by bin/demo.

const DATABASE = 'zubrell_demo';
const PORTS = { server: 4310, bank: 4320 };
const SIGNS = {
  server: { path: '/api/session', key: 'isDemo' },
  bank: { path: '/api/health', key: 'bank' },
};

interface State {
  readonly server: Background;
  readonly bank: Background;
}

const { env } = process;
const data = dataFolder(env);
const stateFile = join(data, 'demo.json');
const logFile = join(data, 'demo.log');
const say = (words: string) => process.stdout.write(`${words}\n`);

const flags = new Set(process.argv.slice(2));
if (flags.has('--help')) {
  say(
    'npm run demo [-- --fresh] [-- --small] [-- --stop]\n' +
      '  --fresh  start over\n  --small  load the small books only: quicker\n  --stop   stop it',
  );
} else if (flags.has('--stop')) {
  await stop();
  (await openCluster({ dataFolder: data })).stop();
  say('The demo is stopped. Its data stays until you start it with --fresh.');
} else await start();
process.exit(0);

async function start(): Promise<void> {
  const running = stateNow();
  if (running && !flags.has('--fresh') && (await isAlive(running))) {
    announce(running);
    return;
  }
  await stop();
  const cluster = await openCluster({ dataFolder: data });
  if (flags.has('--fresh')) await cluster.dropDatabase(DATABASE);
  const urls = await cluster.ensureDatabase(DATABASE);
  await migrate(urls);
  const database = openBackground(urls.runtime);
  const owner = openBackground(urls.owner, 1);
  const close = () => Promise.all([database.$client.end(), owner.$client.end()]);
  if (!(await hasUsers(database))) {
    say('Loading the demo data …');
    try {
      await seed(database, owner, openSecrets(keysOf(env, data)), flags.has('--small'));
    } catch (error) {
      await close();
      // Half a demo would look like a whole one next time.
      await cluster.dropDatabase(DATABASE);
      throw error;
    }
  }
  await close();
  announce(await startPrograms());
}

function announce({ server, bank }: State): void {
  say(`\nZubrell runs with the demo data at ${server.url}\n`);
  say('Open it in a browser and press “Sign in as Mo Oakes”.');
  say(`The practice bank is at ${bank.url}: its trouble is switched on and off there.`);
  say(`Both run in the background (log: ${logFile}). To stop them: npm run demo -- --stop`);
}

/** What was started last, whether or not it still runs. */
function stateNow(): State | null {
  if (!existsSync(stateFile)) return null;
  const state: Partial<State> = JSON.parse(readFileSync(stateFile, 'utf8'));
  return state.server && state.bank ? { server: state.server, bank: state.bank } : null;
}

async function isAlive({ server, bank }: State): Promise<boolean> {
  return (await answers(server.url, SIGNS.server)) && answers(bank.url, SIGNS.bank);
}

async function stop(): Promise<void> {
  const state = stateNow();
  rmSync(stateFile, { force: true });
  if (state === null) return;
  await endBackground(state.server, SIGNS.server);
  await endBackground(state.bank, SIGNS.bank);
}

async function startPrograms(): Promise<State> {
  mkdirSync(data, { recursive: true });
  const records = join(data, 'practice-bank.json');
  writeFileSync(records, JSON.stringify(practiceRecords()));
  const bank = await startInBackground({
    entry: 'server/dist/practiceBank.js',
    port: PORTS.bank,
    logFile: join(data, 'practice-bank.log'),
    sign: SIGNS.bank,
    env: { ...env, PRACTICE_BANK_RECORDS: records, ZUBRELL_TODAY: demoToday },
  });
  const server = await startInBackground({
    entry: 'server/dist/main.js',
    port: PORTS.server,
    logFile,
    sign: SIGNS.server,
    env: {
      ...env,
      // Never a database of the user's own.
      DATABASE_URL: undefined,
      ZUBRELL_DATA: data,
      ZUBRELL_DATABASE: DATABASE,
      ZUBRELL_TODAY: demoToday,
      ZUBRELL_DEMO_EMAIL: demoEmail,
      ZUBRELL_WATCH: join(data, 'watched'),
      PRACTICE_BANK_URL: bank.url,
      PRACTICE_BANK_NAME: practiceBankName,
    },
  });
  const state: State = { server, bank };
  writeFileSync(stateFile, JSON.stringify(state));
  return state;
}
