import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../../testing/client.ts';
import { startHarness } from '../../testing/harness.ts';
import type { Harness } from '../../testing/testServer.ts';
import { walk } from '../../testing/walk/walk.ts';

let harness: Harness;
let client: Client;
beforeAll(async () => {
  harness = await startHarness();
  client = await harness.signIn('Mo Oakes');
});
afterAll(() => harness.stop());

/** A walk that failed elsewhere is walked again by its seed: `WALK_SEEDS=17 npx vitest run walk`. */
const seeds = process.env.WALK_SEEDS?.split(',').map(Number) ?? [1, 2, 3, 4, 5, 6, 7, 8, 9, 10];

describe.concurrent('whatever is done to books, they are what was done', () => {
  it.each(seeds)(
    'in walk %i, which goes back to the start and forth again',
    async (seed) => {
      const { done } = await walk(client, seed, 150);
      expect(done.size).toBeGreaterThan(20);
    },
    400_000,
  );
});
