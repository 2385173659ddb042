import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { lstat, readdir, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fail, ZubrellError } from '@zubrell/core/errors';
import { refusedOf } from '@zubrell/core/formats/bankFile';
import type { BankAccountId, BooksId, UserId } from '@zubrell/core/ids';
import { isSameAccountNumber } from '@zubrell/core/intake/isSameAccountNumber';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { inBooks, rowsOf, type Tx } from '../db/database.ts';
import { isDatabaseAway, knownError } from '../db/databaseErrors.ts';
import { Refusal } from '../db/refusal.ts';
import { IdRow, idRow } from '../db/rows.ts';
import { errorFacts, type Log } from '../log.ts';
import { booksCurrency } from '../modules/books/queries.ts';
import { type BooksFolders, foldersOf, makeFolders } from '../modules/feeds/watchedFolder.ts';
import type { ReadFile } from '../modules/intake/readInThread.ts';
import { startBatch } from '../modules/intake/startBatch.ts';
import { checkRoomForUpload, LARGEST_FILE, storeUpload } from '../modules/intake/uploads.ts';
import type { Services } from '../services.ts';

/** A file that changed less than so many milliseconds ago may still be written. */
const SETTLED = 2_000;
/** A file that somebody began to read so long ago, and that nothing came of, is begun again. */
const FORGOTTEN = 10 * 60_000;
/** What other programs call files that are not whole yet. */
const UNFINISHED = /^\.|\.(part|partial|tmp|temp|filepart|crdownload)$/i;

/** Nothing that a person would have to confirm is taken by itself. */
const PLAIN = {
  acceptRefused: false,
  confirmNumber: false,
  confirmBalance: false,
  confirmDates: false,
  choices: null,
  withOpening: false,
} as const;

const WatchedBooks = z.object({ booksId: idRow<BooksId>(), userId: idRow<UserId>() });
type WatchedBooks = z.infer<typeof WatchedBooks>;

/** What watching works with. */
interface Watching extends WatchedBooks {
  readonly services: Services;
  readonly readFile: ReadFile;
  readonly folders: BooksFolders;
}

/**
 * Takes in the files that lie in watched folders, and puts away those whose lines came in, or were refused. A file
 * belongs to whoever moves it out of the folder first, so that several servers may watch one.
 *
 * @param log where it is told what could not be done: the next time it is tried again
 * @param settled how long a file has to be left alone before it is taken, in milliseconds
 */
export async function watchFolders(
  services: Services,
  readFile: ReadFile,
  log: Log,
  settled = SETTLED,
): Promise<void> {
  const { database, watchFolder } = services;
  if (watchFolder === null) return;
  const watched = await rowsOf(
    database,
    WatchedBooks,
    sql`select books_id as "booksId", user_id as "userId" from watched_books()`,
  );
  for (const books of watched) {
    const watching = {
      ...books,
      services,
      readFile,
      folders: foldersOf(watchFolder, books.booksId),
    };
    try {
      await makeFolders(watching.folders);
      await putAway(watching);
      for (const file of await filesIn(watching, settled)) await takeFile(watching, file);
    } catch (error) {
      if (isDatabaseAway(error)) throw error;
      log.error({ booksId: books.booksId, error: errorFacts(error) }, 'a watched folder failed');
    }
  }
}

/** A file that is being read: its path says its id and the name that it had. */
interface TakenFile {
  readonly id: string;
  readonly name: string;
  readonly path: string;
}

const pathOf = (folder: string, id: string, name: string) => join(folder, `${id} ${name}`);

/** Moves files to be read out of the way: those that came, and those that were forgotten. The oldest are first. */
async function filesIn(
  { booksId, services, folders: { inbox, reading } }: Watching,
  settled: number,
): Promise<TakenFile[]> {
  const known = await inBooks(services.database, booksId, (tx) =>
    rowsOf(
      tx,
      IdRow,
      sql`select id from watched_files where books_id = ${booksId} and state = 'reading'`,
    ),
  );
  const came = (await olderFiles(inbox, settled)).map((name) => ({
    from: join(inbox, name),
    name,
  }));
  const forgotten = (await olderFiles(reading, FORGOTTEN))
    .filter((name) => !known.some(({ id }) => name.startsWith(id)))
    .map((name) => ({ from: join(reading, name), name: name.slice(randomUUID().length + 1) }));
  const taken: TakenFile[] = [];
  for (const { from, name } of [...forgotten, ...came]) {
    const id = randomUUID();
    const path = pathOf(reading, id, name);
    if (await isMoved(from, path)) taken.push({ id, name, path });
  }
  return taken;
}

/** The names of the plain files of a folder that nobody has touched for so long. */
async function olderFiles(folder: string, age: number): Promise<string[]> {
  const found: { readonly name: string; readonly at: number }[] = [];
  for (const name of await readdir(folder)) {
    if (UNFINISHED.test(name)) continue;
    const facts = await lstat(join(folder, name)).catch(() => null);
    if (!facts?.isFile()) continue;
    // Moving a file changes the second of these.
    const at = Math.max(facts.mtimeMs, facts.ctimeMs);
    if (Date.now() - at >= age) found.push({ name, at });
  }
  return found.sort((a, b) => a.at - b.at).map(({ name }) => name);
}

/** Moves a file. @returns whether it was there: somebody else may have been first */
async function isMoved(from: string, to: string): Promise<boolean> {
  try {
    await rename(from, to);
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return false;
    throw error;
  }
}

/** Begins to keep the statements of a file, each for its bank account; or refuses all of it. */
async function takeFile(watching: Watching, file: TakenFile): Promise<void> {
  const { booksId, userId, services } = watching;
  const { database, clock } = services;
  try {
    const places = await placesOf(watching, file);
    // A day on which nothing moved has no lines, and a file all the same.
    await inBooks(database, booksId, async (tx) => {
      await checkRoomForUpload(tx, booksId, (await lstat(file.path)).size);
      const uploadId = await storeUpload(
        { tx, booksId, clock },
        file.name,
        createReadStream(file.path),
      );
      const actor = { userId, name: '', session: null };
      const batchIds: string[] = [];
      for (const place of places) {
        const wanted = { ...PLAIN, ...place, uploadId };
        batchIds.push((await startBatch({ tx, booksId, clock, actor }, wanted)).batchId);
      }
      await noteFile(tx, watching, file, { batchIds, error: null });
    });
    if (places.length === 0)
      await isMoved(file.path, pathOf(watching.folders.done, file.id, file.name));
  } catch (error) {
    const known = knownError(error);
    if (known === null) {
      // It lies where it was, to be taken again.
      await isMoved(file.path, join(watching.folders.inbox, file.name));
      throw error;
    }
    await inBooks(database, booksId, (tx) =>
      noteFile(tx, watching, file, { batchIds: [], error: known }),
    );
    await refuseFile(watching, file, known);
  }
}

/** Which of a file's statements are kept for which bank account: all that have lines. @throws {ZubrellError} */
async function placesOf(
  { booksId, services, readFile }: Watching,
  { path }: TakenFile,
): Promise<{ readonly statementIndex: number; readonly bankAccountId: BankAccountId }[]> {
  if ((await lstat(path)).size > LARGEST_FILE) {
    fail('FILE_TOO_LARGE', { limit: LARGEST_FILE / 1024 ** 2 });
  }
  const currency = await inBooks(services.database, booksId, (tx) => booksCurrency(tx, booksId));
  const read = (statementIndex: number) =>
    readFile(createReadStream(path), { statementIndex, currency }, () => Promise.resolve());
  const first = await read(0);
  const { statements } = first.file;
  const refused = refusedOf(first.file);
  if (refused.length > 0) fail('FILE_HAS_REFUSED', { count: refused.length });
  const places: { statementIndex: number; bankAccountId: BankAccountId }[] = [];
  for (const [statementIndex, { account }] of statements.entries()) {
    const { summary } = statementIndex === 0 ? first : await read(statementIndex);
    if (summary.count === 0) continue;
    const bankAccountId = await inBooks(services.database, booksId, (tx) =>
      accountOf(tx, booksId, account),
    );
    places.push({ statementIndex, bankAccountId });
  }
  return places;
}

const AccountRow = z.object({
  id: idRow<BankAccountId>(),
  name: z.string(),
  number: z.string(),
});

/** The bank account by its number. @throws {ZubrellError} WATCH_NO_NUMBER, WATCH_NO_ACCOUNT, WATCH_SEVERAL_ACCOUNTS */
async function accountOf(tx: Tx, booksId: BooksId, number: string | null): Promise<BankAccountId> {
  if (number === null) fail('WATCH_NO_NUMBER');
  const accounts = await rowsOf(
    tx,
    AccountRow,
    sql`select id, name, number from bank_accounts
        where books_id = ${booksId} and is_here and number is not null order by name`,
  );
  const [account, ...others] = accounts.filter((each) => isSameAccountNumber(each.number, number));
  if (!account) fail('WATCH_NO_ACCOUNT', { number });
  if (others.length > 0) {
    const names = [account, ...others].map(({ name }) => name).join(', ');
    fail('WATCH_SEVERAL_ACCOUNTS', { number, names });
  }
  return account.id;
}

function noteFile(
  tx: Tx,
  { booksId, services }: Watching,
  { id, name }: TakenFile,
  {
    batchIds,
    error,
  }: { readonly batchIds: readonly string[]; readonly error: ZubrellError | null },
): Promise<unknown> {
  const refusal = error && JSON.stringify({ code: error.code, params: error.params });
  return tx.execute(
    sql`insert into watched_files (books_id, id, file_name, at, state, batch_ids, refusal)
        values (${booksId}, ${id}, ${name}, ${services.clock.now().toISOString()},
          ${error ? 'refused' : batchIds.length === 0 ? 'taken' : 'reading'}, ${sql.param(batchIds)}::uuid[], ${refusal}::jsonb)`,
  );
}

const ReadRow = z.object({
  id: z.string(),
  name: z.string(),
  refusal: Refusal.nullable(),
});

/** Puts files away whose batches were all read. */
async function putAway(watching: Watching): Promise<void> {
  const { booksId, services, folders } = watching;
  const read = await inBooks(services.database, booksId, (tx) =>
    rowsOf(
      tx,
      ReadRow,
      sql`select f.id, f.file_name as name,
            (array_agg(b.refusal) filter (where b.status = 'refused'))[1] as refusal
          from watched_files f
          join batches b on b.books_id = f.books_id and b.id = any(f.batch_ids)
          where f.books_id = ${booksId} and f.state = 'reading'
          group by f.id, f.file_name having bool_and(b.status <> 'reading')`,
    ),
  );
  for (const { id, name, refusal } of read) {
    const file = { id, name, path: pathOf(folders.reading, id, name) };
    if (refusal === null) await isMoved(file.path, pathOf(folders.done, id, name));
    else await refuseFile(watching, file, new ZubrellError(refusal.code, refusal.params));
    await inBooks(services.database, booksId, (tx) =>
      tx.execute(
        sql`update watched_files set state = ${refusal === null ? 'taken' : 'refused'},
              refusal = ${refusal === null ? null : JSON.stringify(refusal)}::jsonb
            where books_id = ${booksId} and id = ${id}`,
      ),
    );
  }
}

/** Puts a file among the refused ones, with the reason beside it for whoever put it there. */
async function refuseFile(
  { folders }: Watching,
  { id, name, path }: TakenFile,
  { message }: ZubrellError,
): Promise<void> {
  const put = pathOf(folders.refused, id, name);
  await isMoved(path, put);
  await writeFile(`${put}.txt`, `${message}\n`);
}
