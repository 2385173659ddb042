import { afterAll, beforeAll } from 'vitest';
import { type Database, openBackground } from '../db/database.ts';
import { type Client, makeBooks, type TestBooks } from './client.ts';
import { startHarness } from './harness.ts';
import type { Harness } from './testServer.ts';

/** One set of books for a whole test file, with the database as its tables' owner. */
export interface OwnedBooks {
  readonly harness: Harness;
  readonly owner: Database;
  readonly client: Client;
  readonly books: TestBooks;
}

/** Sets up a server with books for the test file. What it gives can be read once tests run. */
export function setOwnedBooks(): OwnedBooks {
  const made = {} as { -readonly [Part in keyof OwnedBooks]: OwnedBooks[Part] };
  beforeAll(async () => {
    made.harness = await startHarness();
    made.owner = openBackground(made.harness.urls.owner, 2);
    made.client = await made.harness.signIn('Mo Oakes');
    made.books = await makeBooks(made.client);
  });
  afterAll(async () => {
    await made.owner.$client.end();
    await made.harness.stop();
  });
  return made;
}
