import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { sql } from 'drizzle-orm';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { startWorker } from '../jobs/worker.ts';
import { closeDatabases } from '../services.ts';
import { makeDatabaseIn } from '../testing/testServer.ts';
import { type Cluster, openCluster } from './cluster.ts';
import { rowsOf } from './database.ts';
import { ownerRole } from './roles.ts';

let dataFolder: string;
let clusters: Cluster[];

beforeAll(async () => {
  dataFolder = mkdtempSync(join(tmpdir(), 'zubrell-cluster-'));
  // The system user that clusters belong to has to reach it.
  chmodSync(dataFolder, 0o755);
  const open = () => openCluster({ dataFolder, isThrowaway: true });
  // Two at once on an empty folder: one waits for the other.
  clusters = await Promise.all([open(), open()]);
}, 240_000);
afterAll(() => {
  clusters[0]?.stop();
  rmSync(dataFolder, { recursive: true, force: true });
});

const first = (): Cluster => clusters[0] as Cluster;

async function canConnect(connectionString: string): Promise<boolean> {
  const client = new pg.Client({ connectionString });
  client.on('error', () => undefined);
  try {
    await client.connect();
    await client.end();
    return true;
  } catch {
    return false;
  }
}

/** The server that a session's process belongs to. */
function parentOf(pid: number): number {
  return Number(/^PPid:\s*(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]);
}

const AtRow = z.object({ at: z.string() });

const PidRow = z.object({ pid: z.number() });

const AttemptsRow = z.object({ attempts: z.number() });

describe('the own cluster', () => {
  it('gives each role a secret that opens nothing else', async () => {
    const { runtime, owner } = await first().ensureDatabase('secrets');
    expect(await canConnect(runtime)).toBe(true);
    expect(await canConnect(owner)).toBe(true);
    const asOwner = new URL(runtime);
    asOwner.username = ownerRole;
    expect(await canConnect(asOwner.href)).toBe(false);
    asOwner.username = 'cluster_admin';
    expect(await canConnect(asOwner.href)).toBe(false);
    await first().dropDatabase('secrets');
  });

  it('is one for all that start at once', async () => {
    const [urls, others] = await Promise.all(
      clusters.map((each, at) => each.ensureDatabase(`at_once_${at}`)),
    );
    expect(new URL(urls?.owner ?? '').host).toBe(new URL(others?.owner ?? '').host);
  });

  it('is started again at the same port, and the server’s work goes on by itself', async () => {
    const made = await makeDatabaseIn(first());
    const { services } = made;
    const worker = await startWorker(services, () => Promise.reject(new Error('reads nothing')));
    const stopWatching = first().keepRunning();
    const { background } = services;
    const ask = () => rowsOf(background, AtRow, sql`select pg_postmaster_start_time() as at`);
    const before = await ask();
    // Killed, not stopped: as by a machine that runs out of memory.
    const [own] = await rowsOf(background, PidRow, sql`select pg_backend_pid() as pid`);
    process.kill(parentOf(own?.pid ?? 0), 'SIGKILL');
    let after = before;
    for (let tries = 0; tries < 300 && `${after[0]?.at}` === `${before[0]?.at}`; tries += 1) {
      await pause(200);
      after = await ask().catch(() => before);
    }
    expect(`${after[0]?.at}`).not.toBe(`${before[0]?.at}`);
    // The queue works again: a job for no books in particular is done.
    await background.execute(
      sql`select graphile_worker.add_job('renewProposals', '{"booksId":"00000000-0000-4000-8000-000000000000","stems":[]}'::json)`,
    );
    const tried = () =>
      rowsOf(background, AttemptsRow, sql`select attempts from graphile_worker.jobs`);
    let jobs = await tried();
    for (let tries = 0; tries < 300 && (jobs[0]?.attempts ?? 1) === 0; tries += 1) {
      await pause(200);
      jobs = await tried().catch(() => jobs);
    }
    expect(jobs[0]?.attempts ?? 1).toBeGreaterThan(0);
    stopWatching();
    await worker.stop();
    await closeDatabases(services);
    await made.drop();
  }, 600_000);
});
