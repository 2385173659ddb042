import { randomInt } from 'node:crypto';
import { dataFolder } from '@zubrell/server/config';
import { openCluster } from '@zubrell/server/db/cluster';
import { makeDatabaseIn, startOn } from '@zubrell/server/testing/testServer';
import { walk } from '@zubrell/server/testing/walk/walk';
import { sized } from './sized.ts';

const WALKS = sized(40, 1);
const MOVES = sized(250, 20);

/**
 * Walks through books at random, from seeds that nobody has seen, and compares them with a model all the way: no
 * figure of speed, but whether they are what was done to them. A walk that fails tells its seed.
 */
export async function walks(): Promise<string> {
  const server = await startOn(
    await makeDatabaseIn(await openCluster({ dataFolder: dataFolder(process.env) })),
  );
  const first = randomInt(1_000_000);
  const done = new Map<string, number>();
  const failed: string[] = [];
  let refused = 0;
  try {
    const client = await server.signIn('Mo Oakes');
    for (let seed = first; seed < first + WALKS; seed += 1) {
      try {
        const walked = await walk(client, seed, MOVES);
        for (const [move, count] of walked.done) done.set(move, (done.get(move) ?? 0) + count);
        for (const count of walked.refused.values()) refused += count;
      } catch (error) {
        failed.push(error instanceof Error ? error.message : String(error));
      }
    }
  } finally {
    await server.stop();
  }
  const moves = [...done.values()].reduce((sum, count) => sum + count, 0);
  return (
    `${WALKS} walks through books from seed ${first}: ${moves} moves of ${done.size} kinds, ${refused} refused, ` +
    `${failed.length} failed (aim: none)  ${failed.length === 0 ? 'met' : 'NOT MET'}\n${failed.map((each) => `${each}\n`).join('')}`
  );
}
