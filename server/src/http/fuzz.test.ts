import { dice } from '@zubrell/core/testing/dice';
import { expect, it } from 'vitest';
import { fuzzBooks } from '../testing/fuzz/fuzzBooks.ts';
import { fuzzRoutes } from '../testing/fuzz/fuzzRoutes.ts';
import { setScene } from '../testing/scene.ts';

const scene = setScene();
/** A few of the nasty values in each place; the bench tries many more. */
const PER_PLACE = 2;

it('no field of any route brings the server to fail, whatever it holds', async () => {
  const { client, books, harness } = scene;
  const known = await fuzzBooks(client, books);
  const options = { known, cookie: client.cookie, die: dice(20_261_127), perPlace: PER_PLACE };
  const { faults, sent, taken } = await fuzzRoutes(harness.app, options);
  expect(faults).toEqual([]);
  // It got somewhere, and did not only fail at the door.
  expect(sent).toBeGreaterThan(3_000);
  expect(taken).toBeGreaterThan(600);
  // What was taken did not break what is shown.
  for (const place of [
    '/board',
    '/proof',
    '/balances',
    '/lanes',
    '/steps',
    '/documents?side=payables',
  ]) {
    await client.get(`${scene.path}${place}`);
  }
}, 900_000);
