import { createHash, timingSafeEqual } from 'node:crypto';
import { sql } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { z } from 'zod';
import { rowsOf } from '../db/database.ts';
import type { Services } from '../services.ts';

/** Upper ends of the times that requests are counted by, in seconds. */
const TIMES = [0.005, 0.01, 0.025, 0.05, 0.1, 0.15, 0.25, 0.4, 0.6, 1, 2.5, 5, 10, 60];

const QueueRow = z.object({
  waiting: z.number(),
  running: z.number(),
  failed: z.number(),
  age: z.number(),
  troubled: z.number(),
});

/**
 * `/metrics`, in the text format that monitoring systems read: requests by route with their times, the queue with the
 * age of its oldest job, connections, feeds in trouble, and the process. They tell nothing of any books.
 *
 * @param token has to come with each request, as `Authorization: Bearer …`
 * @see the OpenMetrics text format, of which this is version 0.0.4
 */
export function serveMetrics(app: FastifyInstance, services: Services, token: string): void {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const registers = [registry];
  const times = new Histogram({
    name: 'zubrell_request_seconds',
    help: 'Time that requests took, by method, route and status',
    labelNames: ['method', 'route', 'status'],
    buckets: TIMES,
    registers,
  });
  app.addHook('onResponse', async ({ method, routeOptions: { url: route = 'none' } }, reply) => {
    // Streams last as long as a window is open.
    if (route.endsWith('/events')) return;
    times.observe({ method, route, status: reply.statusCode }, reply.elapsedTime / 1_000);
  });

  const connections = new Gauge({
    name: 'zubrell_connections',
    help: 'Connections to the database by pool and state, and how many wait for one',
    labelNames: ['pool', 'state'],
    registers,
    collect() {
      for (const pool of ['database', 'background'] as const) {
        const { totalCount, idleCount, waitingCount } = services[pool].$client;
        const name = pool === 'database' ? 'requests' : 'background';
        connections.set({ pool: name, state: 'busy' }, totalCount - idleCount);
        connections.set({ pool: name, state: 'idle' }, idleCount);
        connections.set({ pool: name, state: 'wanted' }, waitingCount);
      }
    },
  });
  const jobs = new Gauge({
    name: 'zubrell_jobs',
    help: 'Jobs in the queue of all servers, by state',
    labelNames: ['state'],
    registers,
  });
  const age = new Gauge({
    name: 'zubrell_queue_age_seconds',
    help: 'How long the oldest job waits that could be done',
    registers,
  });
  const troubled = new Gauge({
    name: 'zubrell_feeds_in_trouble',
    help: 'Feeds whose last fetch failed, in all books',
    registers,
  });

  async function readQueue(): Promise<void> {
    const [row] = await rowsOf(
      services.background,
      QueueRow,
      sql`select count(*) filter (where locked_at is null and attempts < max_attempts)::int as waiting,
            count(*) filter (where locked_at is not null)::int as running,
            count(*) filter (where locked_at is null and attempts >= max_attempts)::int as failed,
            coalesce(extract(epoch from now() - min(run_at) filter (
              where locked_at is null and attempts < max_attempts and run_at <= now())), 0)::float as age,
            feeds_in_trouble() as troubled
          from graphile_worker.jobs`,
    );
    if (!row) return;
    for (const state of ['waiting', 'running', 'failed'] as const) jobs.set({ state }, row[state]);
    age.set(row.age);
    troubled.set(row.troubled);
  }

  const wanted = digest(`Bearer ${token}`);
  app.get('/metrics', { schema: { hide: true } }, async (request, reply) => {
    const given = digest(request.headers.authorization ?? '');
    if (!timingSafeEqual(given, wanted)) return reply.status(401).send();
    // Where the database is away, the rest is told all the more.
    await readQueue().catch(() => undefined);
    return reply.type(registry.contentType).send(await registry.metrics());
  });
}

const digest = (text: string): Buffer => createHash('sha256').update(text).digest();
