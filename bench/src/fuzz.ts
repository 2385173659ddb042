import { randomInt } from 'node:crypto';
import { dice } from '@zubrell/core/testing/dice';
import { dataFolder } from '@zubrell/server/config';
import { openCluster } from '@zubrell/server/db/cluster';
import { makeBooks } from '@zubrell/server/testing/client';
import { fuzzBooks } from '@zubrell/server/testing/fuzz/fuzzBooks';
import { fuzzRoutes } from '@zubrell/server/testing/fuzz/fuzzRoutes';
import { makeDatabaseIn, startOn } from '@zubrell/server/testing/testServer';
import { sized } from './sized.ts';

const PER_PLACE = sized(12, 1);

/**
 * Sends every route many values that its fields were not made for: no figure of speed, but whether the server
 * ever fails or answers without words.
 */
export async function fuzz(): Promise<string> {
  const server = await startOn(
    await makeDatabaseIn(await openCluster({ dataFolder: dataFolder(process.env) })),
  );
  const seed = randomInt(2 ** 31);
  try {
    const client = await server.signIn('Mo Oakes');
    const known = await fuzzBooks(client, await makeBooks(client));
    const { faults, sent, taken } = await fuzzRoutes(server.app, {
      known,
      cookie: client.cookie,
      die: dice(seed),
      perPlace: PER_PLACE,
    });
    const verdict = faults.length === 0 ? 'met' : 'NOT MET';
    return (
      `fuzz from seed ${seed}: ${sent} requests, ${taken} taken, ${faults.length} faults (aim: none)  ${verdict}\n` +
      faults.map(({ status, request }) => `  ${status} ${request}\n`).join('')
    );
  } finally {
    await server.stop();
  }
}
