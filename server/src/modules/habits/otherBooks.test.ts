import type { Stack } from '@zubrell/contract/desk';
import type { Invited } from '@zubrell/contract/people';
import type { Role } from '@zubrell/core/people/roles';
import { sql } from 'drizzle-orm';
import { afterEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { countRows, inBooks, rowsOf } from '../../db/database.ts';
import { type Client, makeBooks, type TestBooks } from '../../testing/client.ts';
import { ofxFile } from '../../testing/files.ts';
import { joinedAs } from '../../testing/joinedAs.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();

let count = 0;
function keepIn(books: TestBooks, texts: readonly string[]) {
  const lines = texts.map((text, at) => {
    count += 1;
    return { date: `2026-03-0${at + 1}`, amount: '-12.00', text, id: `O${count}` };
  });
  return books.keep(`${count}.ofx`, ofxFile(lines, '0.00'));
}

const stacksOf = async (client: Client, { id }: TestBooks, lane: string) =>
  (
    await client.get<{ stacks: Stack[] }>(
      `/api/books/${id}/stacks?${new URLSearchParams({ lane, grouping: 'lookAlikes' })}`,
    )
  ).stacks;

/** What takes part; each test begins with none that does. */
let using: (readonly [Client, TestBooks])[] = [];
afterEach(async () => {
  for (const [client, { id }] of using) {
    await client.send('PATCH', `/api/books/${id}`, { usesOtherBooks: false });
  }
  using = [];
});

async function letUse(client: Client, books: TestBooks): Promise<void> {
  await client.send('PATCH', `/api/books/${books.id}`, { usesOtherBooks: true });
  using.push([client, books]);
}

/** Other books in which Tidemark's lines were posted to freight, by whoever is signed in. */
async function booksThatKnow(client: Client): Promise<TestBooks> {
  const books = await makeBooks(client);
  await keepIn(books, ['PENHALLOW WOLD 101', 'PENHALLOW WOLD 202']);
  const [stack] = await stacksOf(client, books, 'blank');
  const query = new URLSearchParams({
    lane: 'blank',
    grouping: 'lookAlikes',
    direction: 'out',
    key: stack?.key ?? '',
  });
  const { lines } = await client.get<{ lines: { id: string }[] }>(
    `/api/books/${books.id}/stack-lines?${query}`,
  );
  const part = {
    accountId: await books.accountId('6010'),
    taxCodeId: null,
    share: { kind: 'rest' },
    tax: null,
  };
  await client.send('POST', `/api/books/${books.id}/lines/post`, {
    target: { lineIds: lines.map(({ id }) => id) },
    coding: { payeeId: null, parts: [part], note: null },
    seenStep: 1e6,
  });
  await letUse(client, books);
  return books;
}

/** What other books have proposed here by now. */
async function fromOthers(): Promise<readonly Stack['proposal'][]> {
  const found = await stacksOf(scene.client, scene.books, 'check');
  return found.flatMap(({ proposal }) => (proposal?.source === 'otherBooks' ? proposal : []));
}

async function join(role: Role): Promise<{ readonly userId: string; readonly client: Client }> {
  const client = await joinedAs(scene, 'Ina Soltveit', role);
  return { userId: client.userId, client };
}

describe('the owner’s other books', () => {
  it('propose for suppliers they know, always to be checked, once both take part', async () => {
    await booksThatKnow(scene.client);
    await keepIn(scene.books, ['PENHALLOW WOLD 303', 'QUAYSIDE']);
    expect(await fromOthers()).toEqual([]);
    await letUse(scene.client, scene.books);
    const accountId = await scene.books.accountId('6010');
    expect(await fromOthers()).toMatchObject([
      {
        kind: 'post',
        coding: { payeeId: null, parts: [{ accountId }] },
        grounds: [{ kind: 'otherBooks', books: 1, of: 1, accountId }],
        doubts: [{ kind: 'onlyOtherBooks' }],
      },
    ]);
    await scene.undo();
    expect(await fromOthers()).toEqual([]);
  });

  it('count how many of them agree', async () => {
    await booksThatKnow(scene.client);
    await booksThatKnow(scene.client);
    await letUse(scene.client, scene.books);
    await keepIn(scene.books, ['PENHALLOW WOLD 303']);
    expect(await fromOthers()).toMatchObject([{ grounds: [{ books: 2, of: 2 }] }]);
  });

  it('give way to what these books learned themselves', async () => {
    await booksThatKnow(scene.client);
    await letUse(scene.client, scene.books);
    await keepIn(scene.books, ['PENHALLOW WOLD 1', 'PENHALLOW WOLD 2', 'PENHALLOW WOLD 3']);
    const [first = '', second = ''] = await scene.lineIds('check');
    await scene.post([first, second], '6030');
    expect(await fromOthers()).toEqual([]);
    const left = [...(await scene.stacks('ready')), ...(await scene.stacks('check'))].map(
      ({ proposal }) => proposal,
    );
    expect(left).toMatchObject([
      { source: 'habit', coding: { parts: [{ accountId: await scene.books.accountId('6030') }] } },
    ]);
  });

  it('are silent while somebody works here who was not allowed to see it', async () => {
    await booksThatKnow(scene.client);
    await letUse(scene.client, scene.books);
    await keepIn(scene.books, ['PENHALLOW WOLD 303']);
    expect(await fromOthers()).toHaveLength(1);
    const { userId, client } = await join('bookkeeper');
    expect(await fromOthers()).toEqual([]);
    const path = `${scene.path}/people/${userId}/other-books`;
    await expect(client.send('PATCH', path, { seesOtherBooks: true })).rejects.toThrow(
      'ROLE_TOO_LOW',
    );
    await expect(letUse(client, scene.books)).rejects.toThrow('ROLE_TOO_LOW');
    await scene.client.send('PATCH', path, { seesOtherBooks: true });
    expect(await fromOthers()).toHaveLength(1);
  });

  it('are silent to a client’s joining, who sees no proposals', async () => {
    await booksThatKnow(scene.client);
    await letUse(scene.client, scene.books);
    await keepIn(scene.books, ['PENHALLOW WOLD 303']);
    await join('client');
    expect(await fromOthers()).toHaveLength(1);
  });
});

const OtherHabitRow = z.object({ book: z.number(), wording: z.string() });

describe('books of somebody else', () => {
  it('are never asked, whatever they allow', async () => {
    const stranger = await scene.harness.signIn('Rosa Lindqvarn');
    await booksThatKnow(stranger);
    await letUse(scene.client, scene.books);
    await keepIn(scene.books, ['PENHALLOW WOLD 303']);
    expect(await fromOthers()).toEqual([]);
  });

  it('are not asked where one only works in them', async () => {
    const stranger = await scene.harness.signIn('Rosa Lindqvarn');
    const theirs = await booksThatKnow(stranger);
    const { secret } = await stranger.send<Invited>('POST', `/api/books/${theirs.id}/invitations`, {
      name: 'Mo Oakes',
      role: 'bookkeeper',
    });
    await scene.client.send('POST', `/api/invitations/${secret}/join`, { newUser: null });
    await letUse(scene.client, scene.books);
    await keepIn(scene.books, ['PENHALLOW WOLD 303']);
    expect(await fromOthers()).toEqual([]);
  });

  it('are not given out by the database, and which are asked is not told', async () => {
    const stranger = await scene.harness.signIn('Rosa Lindqvarn');
    await booksThatKnow(stranger);
    await booksThatKnow(scene.client);
    await letUse(scene.client, scene.books);
    const { database } = scene.harness;
    const own = await inBooks(database, scene.books.id, (tx) =>
      rowsOf(tx, OtherHabitRow, sql`select * from habits_of_other_books()`),
    );
    expect(own.map(({ book }) => book)).toEqual([1]);
    const none = await countRows(database, sql`select * from habits_of_other_books()`);
    expect(none).toBe(0);
    await expect(countRows(database, sql`select * from other_books()`)).rejects.toThrow();
  });
});
