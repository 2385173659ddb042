import pg from 'pg';
import type { Database } from '../db/database.ts';

/** First key of the session locks by which worker pools show that they live. */
export const ALIVE = 7_240_116;

/** How long it waits before it connects again, in milliseconds. */
const AGAIN = 500;

/** A connection that does nothing but hold locks, by which others see that worker pools of this process live. */
export interface LifeLine {
  /** Holds the lock of a worker pool from now on, also over breaks of the connection. */
  hold(poolId: string): void;
  /** Others may do now what the pools were doing. */
  letGoAll(): void;
  close(): Promise<void>;
}

/** Opens a life line beside the connections of a pool, and keeps it open. */
export async function openLifeLine(database: Database): Promise<LifeLine> {
  const { connectionString } = database.$client.options;
  const held = new Set<string>();
  let client: pg.Client | null = null;
  let isClosed = false;
  let timer: NodeJS.Timeout | undefined;

  async function connect(): Promise<void> {
    const fresh = new pg.Client({ connectionString, keepAlive: true });
    fresh.on('error', () => undefined);
    fresh.on('end', () => {
      if (client === fresh) client = null;
      connectLater();
    });
    await fresh.connect();
    client = fresh;
    for (const poolId of held) lock(poolId);
  }

  function connectLater(): void {
    clearTimeout(timer);
    if (isClosed) return;
    timer = setTimeout(() => void connect().catch(connectLater), AGAIN);
  }

  function lock(poolId: string): void {
    client
      ?.query('select pg_advisory_lock($1, hashtext($2))', [ALIVE, poolId])
      .catch(() => undefined);
  }

  await connect().catch(connectLater);
  return {
    hold(poolId) {
      held.add(poolId);
      lock(poolId);
    },
    letGoAll() {
      held.clear();
      client?.query('select pg_advisory_unlock_all()').catch(() => undefined);
    },
    async close() {
      isClosed = true;
      clearTimeout(timer);
      await client?.end().catch(() => undefined);
    },
  };
}
