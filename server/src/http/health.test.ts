import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { buildApp } from '../app.ts';
import { openBackground } from '../db/database.ts';
import { startHarness } from '../testing/harness.ts';
import { plainApp } from '../testing/plainApp.ts';
import type { Harness } from '../testing/testServer.ts';
import type { Api } from './api.ts';

const TOKEN = 'a token for the monitoring';

let harness: Harness;
let app: Api;
const state = { isWorking: true, isStopping: false };

beforeAll(async () => {
  harness = await startHarness();
  app = await buildApp(harness.services, {
    ...plainApp,
    metricsToken: TOKEN,
    own: { isWorking: () => state.isWorking, isStopping: () => state.isStopping },
  });
});
afterAll(async () => {
  await app.close();
  await harness.stop();
});

const ask = async (url: string, headers: Record<string, string> = {}) => {
  const { statusCode, body } = await app.inject({ url, headers });
  return { status: statusCode, body };
};
const ready = async () => {
  const { status, body } = await ask('/health/ready');
  return { status, ...JSON.parse(body) };
};

describe('health', () => {
  const well = { isReady: true, database: true, queue: true, migrations: true, isStopping: false };

  it('is live and ready where all is well, for anybody who asks', async () => {
    expect(await ask('/health/live')).toEqual({ status: 200, body: '{"isLive":true}' });
    expect(await ready()).toEqual({ status: 200, ...well });
  });

  it('is not ready without a worker, while it stops, and before the database is migrated', async () => {
    state.isWorking = false;
    expect(await ready()).toEqual({ status: 503, ...well, isReady: false, queue: false });
    state.isWorking = true;
    state.isStopping = true;
    expect(await ready()).toEqual({ status: 503, ...well, isReady: false, isStopping: true });
    state.isStopping = false;
    const owner = openBackground(harness.urls.owner, 1);
    await owner.execute(
      sql.raw(`update drizzle.__drizzle_migrations set created_at = created_at - 1`),
    );
    expect(await ready()).toEqual({ status: 503, ...well, isReady: false, migrations: false });
    await owner.execute(
      sql.raw(`update drizzle.__drizzle_migrations set created_at = created_at + 1`),
    );
    await owner.$client.end();
    expect(await ready()).toMatchObject({ status: 200 });
  });

  it('is live and not ready while the database is away', async () => {
    const away = openBackground(harness.urls.runtime.replace(/:\d+\//, ':1/'), 1);
    const alone = await buildApp({ ...harness.services, background: away }, plainApp);
    const answer = await alone.inject('/health/ready');
    expect([answer.statusCode, answer.json().database]).toEqual([503, false]);
    expect((await alone.inject('/health/live')).statusCode).toBe(200);
    await alone.close();
    await away.$client.end();
  });
});

describe('metrics', () => {
  const read = async () => (await ask('/metrics', { authorization: `Bearer ${TOKEN}` })).body;
  /** The value of one line. */
  const figure = (text: string, line: string) => {
    const found = text.split('\n').find((each) => each.startsWith(`${line} `));
    return found === undefined ? null : Number(found.slice(line.length + 1));
  };

  it('are told to nobody who does not say the token, and are not there without one', async () => {
    expect((await ask('/metrics')).status).toBe(401);
    expect((await ask('/metrics', { authorization: 'Bearer another' })).status).toBe(401);
    const answer = await harness.app.inject('/metrics');
    expect(answer.statusCode).toBe(404);
  });

  it('count requests by route and status, with their times, and nothing of what was asked', async () => {
    const line =
      'zubrell_request_seconds_count{method="GET",route="/api/books/:booksId/lanes",status="401"}';
    const before = figure(await read(), line) ?? 0;
    await ask('/api/books/6b0e2f9c-0000-4000-8000-000000000000/lanes?search=NETTLE');
    const after = await read();
    expect(figure(after, line)).toBe(before + 1);
    expect(after).not.toContain('NETTLE');
    expect(after).not.toContain('6b0e2f9c');
  });

  it('tell of connections and of the queue, with the age of its oldest job', async () => {
    await harness.database.execute(
      sql`select graphile_worker.add_job('unknownTask', '{}', run_at := now() - interval '90 seconds')`,
    );
    const text = await read();
    expect(figure(text, 'zubrell_queue_age_seconds')).toBeGreaterThan(89);
    expect(figure(text, 'zubrell_jobs{state="waiting"}')).toBeGreaterThanOrEqual(1);
    expect(figure(text, 'zubrell_connections{pool="requests",state="wanted"}')).toBe(0);
    expect(figure(text, 'zubrell_feeds_in_trouble')).toBe(0);
    expect(figure(text, 'process_resident_memory_bytes')).toBeGreaterThan(1e6);
  });
});
