import pg from 'pg';
import { expect, it } from 'vitest';
import { makeTestDatabase } from '../testing/harness.ts';
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
