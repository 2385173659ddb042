import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Database, openBackground } from '../db/database.ts';
import { type Client, makeBooks, type TestBooks } from '../testing/client.ts';
import { startHarness } from '../testing/harness.ts';
import type { Harness } from '../testing/testServer.ts';
import { resetLink } from './resetLink.ts';
import { verify } from './verify.ts';

let harness: Harness;
let owner: Database;
let client: Client;
let books: TestBooks;

beforeAll(async () => {
  harness = await startHarness();
  owner = openBackground(harness.urls.owner, 2);
  client = await harness.signIn('Mo Oakes');
  books = await makeBooks(client);
});
afterAll(async () => {
  await owner.$client.end();
  await harness.stop();
});

describe('zubrell verify', () => {
  it('says that all is well, and gives the hashes to note down', async () => {
    const { lines, code } = await verify(owner, 'larkmoor kiln works', null);
    expect(code).toBe(0);
    expect(lines[0]).toBe(`Larkmoor Kiln Works (${books.id})`);
    expect(lines[1]).toMatch(/^1 steps: all as they were written\. Hash at the end: [\da-f]{64}$/);
    expect(lines).toHaveLength(4);
    const [, hash = ''] = /end: (.*)/.exec(lines[1] ?? '') ?? [];
    await client.send('POST', `/api/books/${books.id}/payees`, {
      name: 'Tidemark',
      kind: 'supplier',
    });
    const later = await verify(owner, books.id, hash);
    expect(later.code).toBe(0);
    expect(later.lines.at(-1)).toBe('The given hash is in its chain still.');
  });

  it('names what was changed, even where all hashes after it were made anew', async () => {
    const { lines } = await verify(owner, books.id, null);
    const [, noted = ''] = /end: (.*)/.exec(lines[1] ?? '') ?? [];
    await owner.execute(
      sql`update steps set words = 'Nothing' where books_id = ${books.id} and no = 1`,
    );
    const changed = await verify(owner, books.id, noted);
    expect(changed.code).toBe(1);
    expect(changed.lines).toContain('  Step 1 or the one before it is not as it was written.');
    // Whoever owns the tables can write the whole chain anew, and whoever noted its hash sees that.
    await owner.execute(
      sql`update audit_heads set no = 0, hash = '' where books_id = ${books.id} and chain = 'steps'`,
    );
    await owner.execute(
      sql`select seal_step(books_id, no) from steps where books_id = ${books.id} order by no`,
    );
    expect((await verify(owner, books.id, null)).code).toBe(0);
    const anew = await verify(owner, books.id, noted);
    expect(anew.code).toBe(1);
    expect(anew.lines.at(-1)).toBe(
      'The given hash is in none of the chains: they were written anew.',
    );
  });

  it('asks for an id where several books have the name, and knows no others', async () => {
    expect(await verify(owner, 'Nobody’s', null)).toMatchObject({ code: 2 });
    const other = await makeBooks(client);
    const { lines, code } = await verify(owner, 'Larkmoor Kiln Works', null);
    expect(code).toBe(2);
    expect(lines).toContain(`  ${other.id}`);
  });
});

describe('zubrell reset-link', () => {
  it('makes a link, on record as made by whoever runs the server', async () => {
    const { email } = await client
      .get<{ user: { email: string } }>('/api/session')
      .then(({ user }) => user);
    const made = await resetLink(owner, harness.services, email, true);
    expect(made.code).toBe(0);
    const link = made.lines.at(-1)?.replace('/reset/', '/api/reset-links/') ?? '';
    expect(await client.get(link)).toEqual({ name: 'Mo Oakes', email });
    const { items } = await client.get<{ items: object[] }>(`/api/books/${books.id}/records`);
    expect(items[0]).toMatchObject({
      kind: 'resetLinkMade',
      who: null,
      about: 'Mo Oakes',
      details: { endsSecondFactor: true, byOperator: true },
    });
    expect(
      await resetLink(owner, harness.services, 'nobody@larkmoor.example', false),
    ).toMatchObject({
      code: 2,
    });
  });
});
