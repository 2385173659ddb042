import { randomInt, randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { machineClock } from '@zubrell/server/clock';
import { freePort, openCluster } from '@zubrell/server/db/cluster';
import { type Database, openBackground, rowsOf } from '@zubrell/server/db/database';
import { migrate } from '@zubrell/server/db/migrate';
import { createUser, openSession, sessionCookie } from '@zubrell/server/modules/session/sessions';
import { plainKeep } from '@zubrell/server/testing/client';
import { ofxFile } from '@zubrell/server/testing/files';
import { sql } from 'drizzle-orm';
import { sized } from '../sized.ts';
import {
  type BrokenServer,
  postmasterOf,
  sendUntilAnswered,
  startServer,
} from './brokenServers.ts';
import { faultsIn } from './invariants.ts';

const KILLS = sized(100, 3);
/** Lines of each file; all of one stack, so that they are posted together. */
const LINES = sized(300, 40);
/** The longest until something is killed after work began, in milliseconds. */
const LONGEST = 2_500;
/** So long the work may take to come to its end when nothing is killed any more, in milliseconds. */
const REST = 180_000;

interface Answer {
  readonly id?: string;
  readonly uploadId?: string;
  readonly batchId?: string;
  readonly code?: string;
}

/**
 * Kills servers and the database at random moments while files are kept, lines posted and steps undone, two servers
 * at a time, and looks in the end whether everything was done by itself, once, and adds up.
 */
export async function faults(): Promise<string> {
  const dataFolder = mkdtempSync(join(tmpdir(), 'zubrell-faults-'));
  chmodSync(dataFolder, 0o755);
  const cluster = await openCluster({ dataFolder });
  const urls = await cluster.ensureDatabase('faults');
  await migrate(urls);
  const servers: BrokenServer[] = [];
  const owner = openBackground(urls.owner, 2);
  const runtime = openBackground(urls.runtime, 2);
  try {
    const services = { clock: machineClock };
    const person = { name: 'Mo Oakes', email: 'mo@larkmoor.example', password: 'long enough' };
    const user = await createUser(runtime, services, person);
    const cookie = `${sessionCookie}=${await openSession(runtime, services, user.id)}`;
    servers.push(
      startServer(dataFolder, await freePort()),
      startServer(dataFolder, await freePort()),
    );
    const addresses = servers.map(({ url }) => url);
    const work = workOn(addresses, cookie);
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
    const ended = servers.reduce((sum, server) => sum + server.ended(), 0);
    const isGood = left === 0 && wrong.length === 0 && ended === 0;
    return (
      `${kills.server} kills of servers and ${kills.database} of the database while ${batches.length} files of ${LINES} lines were kept and posted: ` +
      `${left} jobs left, ${ended} servers ended by themselves, ${wrong.length} faults (aim: none)  ${isGood ? 'met' : 'NOT MET'}\n` +
      wrong.map((each) => `  ${each}\n`).join('')
    );
  } finally {
    await Promise.all(servers.map((server) => server.stop()));
    await Promise.all([owner.$client.end(), runtime.$client.end()]);
    cluster.stop();
    rmSync(dataFolder, { recursive: true, force: true });
  }
}

/** Waits until nothing is to be done any more. @returns how many jobs are left */
async function comeToRest(owner: Database, runtime: Database): Promise<number> {
  const until = Date.now() + REST;
  const counted = async (database: Database, query: ReturnType<typeof sql>): Promise<number> => {
    // The database may be coming back just now.
    const [row] = await rowsOf<{ count: number }>(database, query).catch(() => [{ count: 1 }]);
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

interface Begun {
  readonly path: string;
  readonly bankAccountId: string;
  readonly accountId: string;
}

/** What a bookkeeper does meanwhile, each request sent until it is answered, with the same key. */
function workOn(urls: readonly string[], cookie: string) {
  const post = (path: string, body: object): Promise<Answer> =>
    sendUntilAnswered(urls, path, {
      method: 'POST',
      body: JSON.stringify(body),
      headers: { cookie, 'content-type': 'application/json', 'idempotency-key': randomUUID() },
    });
  const get = <T>(path: string): Promise<T> =>
    sendUntilAnswered(urls, path, { headers: { cookie } });

  return {
    async begin(): Promise<Begun> {
      const { id } = await post('/api/books', { name: 'Larkmoor Kiln Works', currency: 'EUR' });
      const path = `/api/books/${id}`;
      const account = { name: 'Everyday', kind: 'current', bank: 'Wick & Alder', number: '4471' };
      const { id: bankAccountId = '' } = await post(`${path}/bank-accounts`, account);
      const { accounts } = await get<{ accounts: { id: string; type: string }[] }>(`${path}/setup`);
      const accountId = accounts.find(({ type }) => type === 'expense')?.id ?? '';
      return { path, bankAccountId, accountId };
    },
    /** Keeps a file, posts some of its lines and now and then takes a step back. @returns the batch */
    async round({ path, bankAccountId, accountId }: Begun, no: number): Promise<string> {
      const lines = Array.from({ length: LINES }, (_, at) => ({
        date: `2026-03-${String(1 + (at % 28)).padStart(2, '0')}`,
        amount: `-${1 + no}.${String(at % 100).padStart(2, '0')}`,
        text: `ORRIN BELL ${no}`,
        id: `${no}-${at}`,
      }));
      const { uploadId } = await sendUntilAnswered<Answer>(
        urls,
        `${path}/uploads?fileName=${no}.ofx`,
        {
          method: 'POST',
          body: ofxFile(lines, '0.00'),
          headers: { cookie, 'content-type': 'application/octet-stream' },
        },
      );
      const { batchId = '' } = await post(`${path}/batches`, {
        uploadId,
        statementIndex: 0,
        bankAccountId,
        ...plainKeep,
        withOpening: false,
      });
      for (;;) {
        const { status } = await get<{ status: string }>(`${path}/batches/${batchId}`);
        if (status !== 'reading') break;
        await pause(100);
      }
      const kept = await get<{ items?: { lineId: string }[] }>(`${path}/batches/${batchId}/lines`);
      const lineIds = (kept.items ?? []).slice(0, 20).map(({ lineId }) => lineId);
      if (lineIds.length > 0) {
        const part = { accountId, taxCodeId: null, share: { kind: 'rest' }, tax: null };
        await post(`${path}/lines/post`, {
          target: { lineIds },
          coding: { payeeId: null, parts: [part], note: null },
          seenStep: 1e6,
        });
      }
      if (no % 3 === 0) await post(`${path}/steps/undo`, { step: null, withLater: false });
      return batchId;
    },
  };
}
