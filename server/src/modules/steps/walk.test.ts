import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { inBooks } from '../../db/database.ts';
import type { Client } from '../../testing/client.ts';
import { startHarness } from '../../testing/harness.ts';
import type { Harness } from '../../testing/testServer.ts';
import { walk } from '../../testing/walk/walk.ts';
import { habitsOf, saveLearned } from '../habits/booksMemory.ts';
import { countDiffering, learnedAnew, rebuildHabits } from '../habits/rebuildHabits.ts';

let harness: Harness;
let client: Client;
beforeAll(async () => {
  harness = await startHarness();
  client = await harness.signIn('Mo Oakes');
});
afterAll(() => harness.stop());

/** A walk that failed elsewhere is walked again by its seed: `WALK_SEEDS=17 npx vitest run walk`. */
const seeds = process.env.WALK_SEEDS?.split(',').map(Number) ?? [1, 2, 3, 4, 5, 6, 7];

/**
 * What habits learned step by step, in mind and as it was saved, is what they learn from all decisions at once. In
 * turn it is then saved as it is, saved anew, and left to go on.
 */
function learning(): (booksId: string) => Promise<void> {
  let times = 0;
  return (booksId) =>
    inBooks(harness.services.database, booksId, async (tx) => {
      const { memory: anew } = await learnedAnew(tx, booksId);
      const { ask } = await habitsOf(tx, booksId);
      expect(ask((memory) => countDiffering(memory, anew))).toBe(0);
      times += 1;
      if (times % 3 === 1) await saveLearned(tx, booksId);
      if (times % 3 === 2) expect((await rebuildHabits(tx, booksId)).differing).toBe(0);
    });
}

describe.concurrent('whatever is done to books, they are what was done', () => {
  it.each(seeds)(
    'in walk %i, which goes back to the start and forth again',
    async (seed) => {
      const { done } = await walk(client, seed, 120, learning());
      expect(done.size).toBeGreaterThan(20);
    },
    400_000,
  );
});
