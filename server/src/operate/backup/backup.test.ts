import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { BooksId } from '@zubrell/core/ids';
import pg from 'pg';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';
import { type Cluster, openCluster } from '../../db/cluster.ts';
import { bookkeeper } from '../../testing/bookkeeper.ts';
import { clientOf, makeBooks } from '../../testing/client.ts';
import { ofxFile } from '../../testing/files.ts';
import { makeTestDatabase } from '../../testing/harness.ts';
import { databaseIn, type Harness, startOn } from '../../testing/testServer.ts';
import { backUp, noteOf } from './backup.ts';
import { restore } from './restore.ts';

let folder: string;
let harness: Harness;
let source: string;
let empty: Cluster;

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'zubrell-backup-'));
  chmodSync(folder, 0o755);
  harness = await startOn(await makeTestDatabase());
  const cluster = await openCluster({ dataFolder: inject('testDataFolder'), isThrowaway: true });
  source = cluster.administrator(new URL(harness.urls.owner).pathname.slice(1));
  empty = await openCluster({ dataFolder: join(folder, 'data'), isThrowaway: true });
});
afterAll(async () => {
  await harness.stop();
  empty.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** A database of the other cluster, with nothing in it. */
async function emptyDatabase(name: string): Promise<string> {
  await empty.ensureDatabase(name);
  return empty.administrator(name);
}

it('is restored into an empty cluster with the same balances, proof, open lines and attachments', async () => {
  const client = await harness.signIn('Mo Oakes');
  const books = await makeBooks(client);
  const ours = bookkeeper(client, books.id as BooksId);
  const lines = [1, 2, 3, 4].map((day) => ({
    date: `2026-03-0${day}`,
    amount: '-12.00',
    text: `ORRIN BELL ${day}`,
  }));
  await books.keep('march.ofx', ofxFile(lines, '152.00'));
  const [first, second] = await ours.open();
  await ours.post(
    [first?.id, second?.id].flatMap((id) => id ?? []),
    ours.codingTo(await ours.accountId('6030')),
  );
  const receipt = Buffer.from('%PDF-1.4 Orrin Bell, 12.00, paid');
  const attachment = await harness.app.inject({
    method: 'POST',
    url: `${ours.path}/lines/${first?.id}/attachments?fileName=receipt.pdf`,
    headers: { cookie: client.cookie, 'content-type': 'application/octet-stream' },
    payload: receipt,
  });
  const { id: attachmentId } = attachment.json<{ id: string }>();
  const file = join(folder, 'one.backup');
  const said = await backUp(source, file);
  expect(said.code).toBe(0);
  expect(said.lines[0]).toMatch(/^Backed up 1 set of books, \d+ rows, into .*one\.backup/);
  // What comes later is not in it.
  const left = (await ours.open()).map(({ id }) => id);
  expect(left).toHaveLength(2);
  await ours.post(left, ours.codingTo(await ours.accountId('6010')));

  expect(await restore(await emptyDatabase('restored'), file)).toMatchObject({ code: 0 });
  const restored = await startOn(await databaseIn(empty, 'restored'));
  const again = clientOf(restored.app, client.userId, client.session);
  const theirs = bookkeeper(again, books.id as BooksId);
  expect((await theirs.open()).map(({ id }) => id)).toEqual(left);
  expect(await theirs.balance('6030')).toBe(2_400);
  expect(await theirs.balance('6010')).toBe(0);
  expect(await theirs.proof()).toMatchObject({ unexplained: 0 });
  const attachments = { headers: { cookie: client.cookie } };
  const kept = await restored.app.inject({
    url: `${ours.path}/attachments/${attachmentId}`,
    ...attachments,
  });
  expect(kept.rawPayload).toEqual(receipt);
  // One can go on with it.
  await theirs.undo();
  expect(await theirs.open()).toHaveLength(4);
  await restored.stop();
});

it('writes no second backup over a first one, and restores into nothing that is in use', async () => {
  const file = join(folder, 'two.backup');
  expect((await backUp(source, file)).code).toBe(0);
  const before = await readFile(file);
  expect(await backUp(source, file)).toEqual({
    lines: [`${file} is there already. Name a new file.`],
    code: 2,
  });
  expect(await readFile(file)).toEqual(before);
  const { code, lines } = await restore(source, file);
  expect(code).toBe(2);
  expect(lines[0]).toMatch(/is not empty, and nothing in it was changed/);
});

it('refuses a file that is damaged, or has no note, before anything is restored', async () => {
  const file = join(folder, 'three.backup');
  await backUp(source, file);
  const url = await emptyDatabase('untouched');
  const bytes = await readFile(file);
  const damaged = Buffer.from(bytes);
  damaged.writeUInt8((damaged.readUInt8(damaged.length - 40) + 1) % 256, damaged.length - 40);
  await writeFile(file, damaged);
  expect((await restore(url, file)).lines[0]).toMatch(/was changed or damaged/);
  await writeFile(file, bytes.subarray(0, bytes.length - 100));
  expect((await restore(url, file)).lines[0]).toMatch(/was changed or damaged/);
  await writeFile(file, bytes);
  const note = await readFile(noteOf(file), 'utf8');
  await writeFile(noteOf(file), 'something else');
  expect((await restore(url, file)).lines[0]).toMatch(/is not what a backup wrote/);
  rmSync(noteOf(file));
  expect((await restore(url, file)).lines[0]).toMatch(/is missing, by which/);
  expect((await restore(url, join(folder, 'none'))).lines[0]).toMatch(/^There is no file/);
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query(
    `select from information_schema.tables where table_schema = 'public'`,
  );
  await client.end();
  expect(rows).toHaveLength(0);
  // Rows that are missing are found, even where the file is what the note says.
  const wrong = JSON.parse(note);
  wrong.contents.tables['public.users'] += 1;
  await writeFile(noteOf(file), JSON.stringify(wrong));
  const { code, lines } = await restore(url, file);
  expect(code).toBe(1);
  expect(lines[1]).toMatch(/^public\.users: \d+ rows were backed up, \d+ came$/);
});

it('leaves nothing behind where the database can’t be read', async () => {
  const file = join(folder, 'four.backup');
  const none = 'There are no books in the database: nothing was backed up.';
  expect(await backUp(await emptyDatabase('empty'), file)).toEqual({ lines: [none], code: 2 });
  const gone = source.replace(/\/[^/]*$/, '/there_is_none');
  await expect(backUp(gone, file)).rejects.toThrow(/there_is_none/);
  await expect(readFile(file)).rejects.toThrow();
  await expect(readFile(`${file}.part`)).rejects.toThrow();
});
