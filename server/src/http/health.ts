import { sql } from 'drizzle-orm';
import { readMigrationFiles } from 'drizzle-orm/migrator';
import { z } from 'zod';
import { rowsOf } from '../db/database.ts';
import { migrationsFolder } from '../db/migrate.ts';
import type { Services } from '../services.ts';
import type { Api } from './api.ts';

/** What a server knows of itself beside its database. */
export interface OwnState {
  /** Whether it works on the queue. */
  isWorking(): boolean;
  /** Whether it was told to stop: it finishes what it does, and should be sent nothing more. */
  isStopping(): boolean;
}

/** Whether a server should be sent requests, and what keeps it from that. */
export interface Readiness {
  readonly isReady: boolean;
  /** Answers. */
  readonly database: boolean;
  /** Has a worker here, and can be asked. */
  readonly queue: boolean;
  /** As many as this version of the program needs. */
  readonly migrations: boolean;
  readonly isStopping: boolean;
}

const ReadyRow = z.object({ migrated: z.coerce.number(), jobs: z.boolean() });

/**
 * `/health/live`: the process answers; where it does not, it is to be started again. `/health/ready`: it can do what it
 * is for; while it can't, requests go elsewhere. Both are for whoever watches the server, and tell nothing of any books.
 */
export function healthRoutes(app: Api, services: Services, own: OwnState): void {
  const newest = newestMigration();

  async function readiness(): Promise<Readiness> {
    const isStopping = own.isStopping();
    try {
      const [row] = await rowsOf(
        services.background,
        ReadyRow,
        sql`select (select max(created_at) from drizzle.__drizzle_migrations) as migrated,
              exists (select from graphile_worker.jobs) as jobs`,
      );
      const queue = own.isWorking();
      const migrations = (row?.migrated ?? 0) >= newest;
      return {
        isReady: queue && migrations && !isStopping,
        database: true,
        queue,
        migrations,
        isStopping,
      };
    } catch {
      return { isReady: false, database: false, queue: false, migrations: false, isStopping };
    }
  }

  app.get('/health/live', { schema: { hide: true } }, () => ({ isLive: true }));
  app.get('/health/ready', { schema: { hide: true } }, async (_request, reply) => {
    const state = await readiness();
    return reply
      .status(state.isReady ? 200 : 503)
      .header('cache-control', 'no-store')
      .send(state);
  });
}

/** When the newest migration of this version was made, in milliseconds. */
function newestMigration(): number {
  const files = readMigrationFiles({ migrationsFolder });
  return Math.max(...files.map(({ folderMillis }) => folderMillis));
}
