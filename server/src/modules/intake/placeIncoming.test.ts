import type { BatchLines } from '@zubrell/contract/intake';
import { readBankFile } from '@zubrell/core/formats/readBankFile';
import { matchSources } from '@zubrell/core/intake/matchSources';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Client, makeBooks } from '../../testing/client.ts';
import { startHarness } from '../../testing/harness.ts';
import type { Harness } from '../../testing/testServer.ts';

let harness: Harness;
let client: Client;

beforeAll(async () => {
  harness = await startHarness();
  client = await harness.signIn('Mo Oakes');
});
afterAll(() => harness.stop());

/** Lines so much alike that ids, counting and weaker evidence all have something to do. */
const line = fc.record({
  day: fc.integer({ min: 1, max: 9 }),
  amount: fc.constantFrom('-4.80', '-4.80', '-48.50', '640.00'),
  text: fc.constantFrom('COBBLE CAFE 2', 'COBBLE CAFE 31', 'Cobble Café 2', 'NETTLE AND THREAD'),
  id: fc.option(fc.constantFrom('A', 'B', 'C', 'D', 'E', 'F')),
});
const source = fc.array(line, { minLength: 1, maxLength: 14 });

function csv(lines: readonly (typeof line extends fc.Arbitrary<infer L> ? L : never)[]): string {
  const rows = lines.map(
    ({ day, amount, text, id }) => `2026-03-0${day},${text},${amount},${id ?? ''}`,
  );
  return ['Date,Details,Amount,Bank id', ...rows].join('\n');
}

async function linesOf(content: string) {
  const file = await readBankFile(new TextEncoder().encode(content), { currency: 'EUR' });
  return file.statements[0]?.lines ?? [];
}

describe('placing lines in the database', () => {
  it('finds the same lines here, doubtful and new as the core does', async () => {
    await fc.assert(
      fc.asyncProperty(source, source, async (first, second) => {
        const books = await makeBooks(client);
        await books.keep('first.csv', csv(first));
        const { id } = await books.keep('second.csv', csv(second));
        const { items } = await client.get<BatchLines>(
          `/api/books/${books.id}/batches/${id}/lines`,
        );
        const placed = items.map(({ folded, isDoubtful }) =>
          folded ? 'already' : isDoubtful ? 'doubtful' : 'new',
        );
        // The database gives lines of one account in the order of time.
        const here = [...(await linesOf(csv(first)))].sort((a, b) =>
          a.date < b.date ? -1 : a.date > b.date ? 1 : 0,
        );
        const expected = matchSources(here, await linesOf(csv(second))).map(({ kind }) => kind);
        expect(placed).toEqual(expected);
      }),
      { numRuns: 40 },
    );
    // Each run makes books of its own: on a busy machine that takes a while.
  }, 600_000);
});
