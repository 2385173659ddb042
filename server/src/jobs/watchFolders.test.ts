import { randomUUID } from 'node:crypto';
import { mkdir, mkdtemp, readdir, readFile, rm, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { WatchedFolder } from '@zubrell/contract/feeds';
import type { Batch } from '@zubrell/contract/intake';
import { bankLine } from '@zubrell/core/formats/bankFile';
import { writeOfx } from '@zubrell/core/formats/write/writeOfx';
import { sampleStatement } from '@zubrell/core/testing/sampleFiles';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { openLog } from '../log.ts';
import { openReaderPool, type ReaderPool } from '../modules/intake/readInThread.ts';
import type { Services } from '../services.ts';
import { type Client, makeBooks, type TestBooks } from '../testing/client.ts';
import { ofxFile } from '../testing/files.ts';
import { startHarness } from '../testing/harness.ts';
import type { Harness } from '../testing/testServer.ts';
import { watchFolders } from './watchFolders.ts';

let harness: Harness;
let client: Client;
let books: TestBooks;
let readers: ReaderPool;
let services: Services;
let watchFolder: string;
/** The folder of the books. */
let inbox: string;

beforeAll(async () => {
  watchFolder = await mkdtemp(join(tmpdir(), 'zubrell-watched-'));
  // Looked at by the tests alone: the worker of the server looks too seldom to matter.
  harness = await startHarness({ watchFolder });
  services = { ...harness.services, watchFolder };
  client = await harness.signIn('Mo Oakes');
  readers = openReaderPool();
});
afterAll(async () => {
  await harness.stop();
  await readers.close();
  await rm(watchFolder, { recursive: true });
});
beforeEach(async () => {
  books = await makeBooks(client);
  inbox = join(watchFolder, books.id);
});

const path = () => `/api/books/${books.id}`;
const watched = (as = client) => as.get<WatchedFolder>(`${path()}/watched-folder`);
const set = (isOn: boolean, as = client) => as.send('PUT', `${path()}/watched-folder`, { isOn });
const look = () => watchFolders(services, readers.readFile, openLog(null), 0);
const put = (name: string, content: string | Uint8Array) => writeFile(join(inbox, name), content);
const oneLine = { date: '2026-03-05', amount: '-10.00', text: 'ORRIN BELL', id: 'K1' };

/** Looks until nothing is being read any more. */
async function lookUntilRead(): Promise<WatchedFolder> {
  for (;;) {
    await look();
    const found = await watched();
    if (found.files.length > 0 && found.files.every(({ state }) => state !== 'reading')) {
      return found;
    }
  }
}

/** The names that files had before they were put into a folder of the books. */
const namesIn = async (folder: string) =>
  (await readdir(join(inbox, folder))).map((name) => name.slice(37)).sort();
const batches = async () => (await client.get<{ batches: Batch[] }>(`${path()}/batches`)).batches;

describe('a watched folder', () => {
  it('brings in what lies in it, in the name of who turned it on, and puts the file away', async () => {
    expect(await watched()).toMatchObject({ folder: inbox, isOn: false, files: [] });
    await set(true);
    expect(await watched()).toMatchObject({ isOn: true, by: 'Mo Oakes', trouble: null });
    await put('spring.ofx', ofxFile([oneLine], '90.00'));
    const { files } = await lookUntilRead();
    expect(files).toMatchObject([
      { fileName: 'spring.ofx', state: 'taken', newCount: 1, message: null },
    ]);
    expect(await batches()).toMatchObject([
      { fileName: 'spring.ofx', status: 'kept', createdBy: 'Mo Oakes', newCount: 1 },
    ]);
    expect(await namesIn('done')).toEqual(['spring.ofx']);
    expect(await namesIn('reading')).toEqual([]);
    // The same again: it brings nothing, and both files are kept apart.
    await put('spring.ofx', ofxFile([oneLine], '90.00'));
    expect((await lookUntilRead()).files[0]).toMatchObject({ state: 'taken', newCount: 0 });
    expect(await namesIn('done')).toEqual(['spring.ofx', 'spring.ofx']);
  });

  it('takes each statement of a file to the account with its number', async () => {
    const card = await client.send<{ id: string }>('POST', `${path()}/bank-accounts`, {
      name: 'Card',
      kind: 'card',
      bank: null,
      number: 'IE 8020-77',
    });
    await set(true);
    const statement = (account: string, text: string) => ({
      ...sampleStatement(1),
      account,
      opening: null,
      closing: null,
      lines: [
        bankLine({
          place: 0,
          date: '2026-03-05',
          amount: -1_000,
          description: text,
          reference: null,
          bankId: text,
        }),
      ],
    });
    await put(
      'both.ofx',
      writeOfx([statement('4471', 'CLAY'), statement('ie802077', 'GLAZE')], 'EUR'),
    );
    expect((await lookUntilRead()).files).toMatchObject([{ state: 'taken', newCount: 2 }]);
    const kept = await batches();
    expect(kept.map(({ bankAccountId }) => bankAccountId).sort()).toEqual(
      [books.bankAccountId, card.id].sort(),
    );
  });

  it('refuses with words what is of no account here, or can’t be read, and brings in nothing of it', async () => {
    await set(true);
    await put('other.ofx', ofxFile([oneLine], '90.00', '9999'));
    await put('nonsense.xml', 'Dear customer');
    await put('table.csv', 'Date,Details,Amount\n2026-03-05,ORRIN,-10.00\n');
    await put('other currency.ofx', ofxFile([oneLine], '90.00', '4471', 'CHF'));
    const { files } = await lookUntilRead();
    const messages = new Map(files.map(({ fileName, message }) => [fileName, message]));
    expect(files.every(({ state }) => state === 'refused')).toBe(true);
    expect(messages.get('other.ofx')).toContain(
      'for account 9999, but no bank account here has that number',
    );
    expect(messages.get('nonsense.xml')).toContain('can’t read this file');
    expect(messages.get('table.csv')).toContain('doesn’t say which bank account');
    expect(messages.get('other currency.ofx')).toContain('CHF');
    expect(await client.get(`${path()}/lanes`)).toMatchObject({ blank: 0, check: 0 });
    const refused = await readdir(join(inbox, 'refused'));
    const reason = refused.find((name) => name.endsWith('other.ofx.txt')) ?? '';
    expect(await readFile(join(inbox, 'refused', reason), 'utf8')).toBe(
      `${messages.get('other.ofx')}\n`,
    );
    expect(refused).toHaveLength(8);
  });

  it('puts away a file of a day on which nothing moved, and refuses one with records it can’t read', async () => {
    await set(true);
    await put('quiet.ofx', ofxFile([], '90.00'));
    await put('odd.ofx', ofxFile([oneLine, { ...oneLine, amount: 'ten', id: 'K2' }], '90.00'));
    const { files } = await lookUntilRead();
    const found = new Map(files.map((file) => [file.fileName, file]));
    expect(found.get('quiet.ofx')).toMatchObject({ state: 'taken', newCount: null });
    expect(found.get('odd.ofx')?.message).toContain('Unreadable records in the file: 1.');
    expect(await namesIn('done')).toEqual(['quiet.ofx']);
    expect(await batches()).toEqual([]);
  });

  it('begins again what a server took and never read, but not what is being read', async () => {
    await set(true);
    const longAgo = new Date(Date.now() - 3_600_000);
    const lost = join('reading', `${randomUUID()} lost.ofx`);
    await put(lost, ofxFile([oneLine], '90.00'));
    // The time of its last move can't be set: what is older than the clock says was left long ago.
    await utimes(join(inbox, lost), longAgo, longAgo);
    const now = Date.now;
    Date.now = () => now() + 3_600_000;
    try {
      expect((await lookUntilRead()).files).toMatchObject([
        { fileName: 'lost.ofx', state: 'taken' },
      ]);
    } finally {
      Date.now = now;
    }
    expect(await batches()).toHaveLength(1);
    expect(await namesIn('done')).toEqual(['lost.ofx']);
  });

  it('leaves alone what is still being written, folders, and what is not a file of a bank’s program yet', async () => {
    await set(true);
    await put('spring.ofx.part', 'half a fi');
    await put('.hidden', 'x');
    await mkdir(join(inbox, 'older'));
    await put('young.ofx', ofxFile([oneLine], '90.00'));
    await watchFolders(services, readers.readFile, openLog(null), 60_000);
    expect((await watched()).files).toEqual([]);
    expect((await readdir(inbox)).sort()).toEqual(
      ['.hidden', 'done', 'older', 'reading', 'refused', 'spring.ofx.part', 'young.ofx'].sort(),
    );
    expect((await lookUntilRead()).files).toMatchObject([{ fileName: 'young.ofx' }]);
  });

  it('lets several servers look at once: each file comes in once', async () => {
    await set(true);
    for (const no of [1, 2, 3, 4]) {
      const line = { ...oneLine, amount: `-${no}.00`, id: `K${no}` };
      await put(`${no}.ofx`, ofxFile([line], '90.00'));
      await utimes(join(inbox, `${no}.ofx`), new Date(), new Date(no * 1_000));
    }
    await Promise.all([look(), look(), look()]);
    const { files } = await lookUntilRead();
    expect(files.map(({ fileName }) => fileName).sort()).toEqual([
      '1.ofx',
      '2.ofx',
      '3.ofx',
      '4.ofx',
    ]);
    expect(await batches()).toHaveLength(4);
  });

  it('is not watched once it is turned off, or who turned it on may not import any more', async () => {
    await set(true);
    await set(false);
    await put('spring.ofx', ofxFile([oneLine], '90.00'));
    await look();
    expect(await watched()).toMatchObject({ isOn: false, files: [] });
    const ida = await harness.signIn('Ida Fennick');
    const { secret } = await client.send<{ secret: string }>('POST', `${path()}/invitations`, {
      name: 'Ida Fennick',
      role: 'bookkeeper',
    });
    await ida.send('POST', `/api/invitations/${secret}/join`, { newUser: null });
    await set(true, ida);
    expect(await watched()).toMatchObject({ isOn: true, by: 'Ida Fennick', trouble: null });
    await client.send('PATCH', `${path()}/people/${ida.userId}`, { role: 'reviewer' });
    await look();
    expect((await watched()).files).toEqual([]);
    expect((await watched()).trouble).toContain('Ida Fennick, who turned on the watched folder');
    await set(true);
    expect((await lookUntilRead()).files).toMatchObject([{ state: 'taken' }]);
  });
});

describe('a server that watches no folder', () => {
  it('says so', async () => {
    const plain = await startHarness();
    try {
      const mo = await plain.signIn('Mo Oakes');
      const { id } = await makeBooks(mo);
      const at = `/api/books/${id}/watched-folder`;
      expect(await mo.get(at)).toMatchObject({ folder: null, isOn: false });
      await expect(mo.send('PUT', at, { isOn: true })).rejects.toThrow('WATCH_NOT_OFFERED');
    } finally {
      await plain.stop();
    }
  });
});
