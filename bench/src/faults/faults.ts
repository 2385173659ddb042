import { randomInt } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { machineClock } from '@zubrell/server/clock';
import { freePort, openCluster } from '@zubrell/server/db/cluster';
import { type Database, openBackground, rowsOf } from '@zubrell/server/db/database';
import { migrate } from '@zubrell/server/db/migrate';
import { createUser, openSession, sessionCookie } from '@zubrell/server/modules/session/sessions';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { sized } from '../sized.ts';
import { type BrokenServer, postmasterOf, startServer } from './brokenServers.ts';
import { openFaultBank } from './faultBank.ts';
import { faultsIn } from './invariants.ts';
import { workOn } from './work.ts';

const KILLS = sized(100, 3);
/** Lines of each file; all of one stack, so that they are posted together. */
const LINES = sized(300, 40);
/** The longest until something is killed after work began, in milliseconds. */
const LONGEST = 2_500;
/** So long the work may take to come to its end when nothing is killed any more, in milliseconds. */
const REST = 600_000;

/**
 * Kills servers and the database at random moments while files are kept, feeds fetched, lines posted by hand, by rule
 * and in sweeps, paired, and steps undone, two servers at a time, and looks in the end whether everything was done by
 * itself, once, and adds up.
 */
export async function faults(): Promise<string> {
  const dataFolder = mkdtempSync(join(tmpdir(), 'zubrell-faults-'));
  chmodSync(dataFolder, 0o755);
  const cluster = await openCluster({ dataFolder });
  const urls = await cluster.ensureDatabase('faults');
  await migrate(urls);
  const servers: BrokenServer[] = [];
  const bank = await openFaultBank();
  const owner = openBackground(urls.owner, 2);
  const runtime = openBackground(urls.runtime, 2);
  try {
    const services = { clock: machineClock };
    const person = { name: 'Mo Oakes', email: 'mo@larkmoor.example', password: 'long enough' };
    const user = await createUser(runtime, services, person);
    const cookie = `${sessionCookie}=${await openSession(runtime, services, user.id)}`;
    for (const port of [await freePort(), await freePort()]) {
      servers.push(startServer(dataFolder, port, bank.url));
    }
    const addresses = servers.map(({ url }) => url);
    const work = workOn(addresses, cookie, bank, LINES);
    const begun = await work.begin();
    const kills = { server: 0, database: 0 };
    const files: Promise<string>[] = [];
    for (let no = 0; no < KILLS; no += 1) {
      files.push(work.round(begun, no));
      await pause(randomInt(LONGEST));
      const pid = postmasterOf(join(dataFolder, 'postgres', 'data', 'postmaster.pid'));
      if (randomInt(3) === 0 && pid !== null) {
        process.kill(pid, 'SIGKILL');
        kills.database += 1;
      } else {
        servers[randomInt(servers.length)]?.kill();
        kills.server += 1;
      }
      // Not more files at once than one person may send.
      if (files.length % 2 === 0) await Promise.all(files);
    }
    const batches = await Promise.all(files);
    const left = await comeToRest(owner, runtime);
    const wrong = await faultsIn(owner, { batches, lines: LINES });
    const ended = servers.flatMap((server) => server.ended());
    const isGood = left === 0 && wrong.length === 0 && ended.length === 0;
    return (
      `${kills.server} kills of servers and ${kills.database} of the database while ${batches.length} files of ${LINES} lines were kept and posted: ` +
      `${left} jobs left, ${ended.length} servers ended by themselves, ${wrong.length} faults (aim: none)  ${isGood ? 'met' : 'NOT MET'}\n` +
      [...wrong, ...ended].map((each) => `  ${each}\n`).join('') +
      `  steps taken: ${await stepsTaken(owner)}; refused: ${work.refused() || 'none'}\n`
    );
  } finally {
    await Promise.all(servers.map((server) => server.stop()));
    await Promise.all([owner.$client.end(), runtime.$client.end(), bank.close()]);
    cluster.stop();
    rmSync(dataFolder, { recursive: true, force: true });
  }
}

const CountRow = z.object({ count: z.number() });

/** Waits until nothing is to be done any more. @returns how many jobs are left */
async function comeToRest(owner: Database, runtime: Database): Promise<number> {
  const until = Date.now() + REST;
  const counted = async (database: Database, query: ReturnType<typeof sql>): Promise<number> => {
    // The database may be coming back just now.
    const [row] = await rowsOf(database, CountRow, query).catch(() => [{ count: 1 }]);
    return Number(row?.count ?? 1);
  };
  for (;;) {
    const count =
      (await counted(runtime, sql`select count(*) from graphile_worker.jobs`)) +
      (await counted(owner, sql`select count(*) from batches where status = 'reading'`));
    if (count === 0 || Date.now() > until) return count;
    await pause(500);
  }
}

const StepsTakenRow = z.object({ kind: z.string(), count: z.number() });

/** How many steps there are of each kind, so that it can be seen that all of it was done. */
async function stepsTaken(owner: Database): Promise<string> {
  const rows = await rowsOf(
    owner,
    StepsTakenRow,
    sql`select kind, count(*)::int as count from steps group by kind order by kind`,
  );
  return rows.map(({ kind, count }) => `${kind} ${count}`).join(', ');
}
