import type { LaneCounts, LinesDone, ScopeProof, Stack, UndoDone } from '@zubrell/contract/desk';
import type { LineId } from '@zubrell/core/ids';
import { afterAll, beforeAll, beforeEach } from 'vitest';
import { type Client, makeBooks, type TestBooks } from './client.ts';
import { startHarness } from './harness.ts';
import type { Harness } from './testServer.ts';

/** What most tests of commands on lines work with: new books for each test, and short ways. */
export interface Scene {
  readonly harness: Harness;
  /** The user who made the books. */
  readonly client: Client;
  readonly books: TestBooks;
  /** Where the books' own routes begin. */
  readonly path: string;
  lanes(): Promise<LaneCounts>;
  stacks(lane?: string): Promise<Stack[]>;
  /** The lines that stand in a lane, by stack. */
  lineIds(lane?: string): Promise<string[]>;
  proof(): Promise<ScopeProof['proof']>;
  /** Posts whole lines to the account with this code, with no payee and no tax. */
  post(lineIds: readonly LineId[], code: string): Promise<LinesDone>;
  /** Undoes a step alone; without one, the user's last. */
  undo(step?: number): Promise<UndoDone>;
}

/** Sets up a server for the test file, and new books before each of its tests. */
export function setScene(): Scene {
  let harness: Harness;
  let client: Client;
  let books: TestBooks;
  beforeAll(async () => {
    harness = await startHarness();
    client = await harness.signIn('Mo Oakes');
  });
  afterAll(() => harness.stop());
  beforeEach(async () => {
    books = await makeBooks(client);
  });

  const path = () => `/api/books/${books.id}`;
  const stacks: Scene['stacks'] = async (lane = 'blank') => {
    const query = new URLSearchParams({ lane, grouping: 'lookAlikes' });
    return (await client.get<{ stacks: Stack[] }>(`${path()}/stacks?${query}`)).stacks;
  };
  return {
    get harness() {
      return harness;
    },
    get client() {
      return client;
    },
    get books() {
      return books;
    },
    get path() {
      return path();
    },
    lanes: () => client.get(`${path()}/lanes`),
    stacks,
    lineIds: async (lane = 'blank') => {
      const ids: string[] = [];
      // One after another: hundreds at once wait longer for a connection than a request may.
      for (const { key, direction } of await stacks(lane)) {
        const query = new URLSearchParams({ lane, grouping: 'lookAlikes', direction, key });
        const found = await client.get<{ lines: { id: string }[] }>(
          `${path()}/stack-lines?${query}`,
        );
        ids.push(...found.lines.map(({ id }) => id));
      }
      return ids;
    },
    proof: async () => (await client.get<ScopeProof>(`${path()}/proof`)).proof,
    post: async (lineIds, code) => {
      const part = {
        accountId: await books.accountId(code),
        taxCodeId: null,
        share: { kind: 'rest' },
        tax: null,
      };
      return client.send('POST', `${path()}/lines/post`, {
        target: { lineIds },
        coding: { payeeId: null, parts: [part], note: null },
        seenStep: 1e6,
      });
    },
    undo: (step) =>
      client.send('POST', `${path()}/steps/undo`, { step: step ?? null, withLater: false }),
  };
}
