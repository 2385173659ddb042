import pg from 'pg';
import { expect, inject, it } from 'vitest';
import { makeTestDatabase } from '../testing/harness.ts';
import { openCluster } from './cluster.ts';
import { migrate } from './migrate.ts';

it('a database of before the baseline is left as it is, with words on what to do', async () => {
  const made = await makeTestDatabase();
  const client = new pg.Client({ connectionString: made.urls.owner });
  await client.connect();
  const count = async () =>
    (await client.query('SELECT count(*)::int AS count FROM drizzle.__drizzle_migrations')).rows[0]
      .count;
  const before = await count();
  await migrate(made.urls);
  expect(await count()).toBe(before);
  await client.query('UPDATE drizzle.__drizzle_migrations SET created_at = created_at - 1e10');
  await expect(migrate(made.urls)).rejects.toThrow('npm run demo -- --fresh');
  expect(await count()).toBe(before);
  await client.end();
  await made.drop();
});

it('is done by one of several servers that start at once, and waited for by the others', async () => {
  const cluster = await openCluster({ dataFolder: inject('testDataFolder'), isThrowaway: true });
  const name = 'test_migrated_at_once';
  const urls = await cluster.ensureDatabase(name);
  await Promise.all([migrate(urls), migrate(urls), migrate(urls)]);
  const client = new pg.Client({ connectionString: urls.owner });
  await client.connect();
  const { rows } = await client.query(
    'SELECT count(*)::int AS all, count(DISTINCT hash)::int AS different FROM drizzle.__drizzle_migrations',
  );
  expect(rows[0].all).toBeGreaterThan(20);
  expect(rows[0].different).toBe(rows[0].all);
  await client.end();
  await cluster.dropDatabase(name);
});
