import { constants } from 'node:fs';
import { access, mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { WatchedFile, type WatchedFolder } from '@zubrell/contract/feeds';
import { fail, messageOf } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { Refusal, refusalWords } from '../../db/refusal.ts';
import type { Services } from '../../services.ts';
import { giveMandate } from '../session/giveMandate.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';

/** So many files are shown. */
const SHOWN = 20;

/** The folders of one set of books on the server. */
export interface BooksFolders {
  /** Where another program puts files. */
  readonly inbox: string;
  /** Where they are while they are read. */
  readonly reading: string;
  readonly done: string;
  readonly refused: string;
}

/** The folders of books below the watched one. */
export function foldersOf(watchFolder: string, booksId: BooksId): BooksFolders {
  const inbox = join(watchFolder, booksId);
  return {
    inbox,
    reading: join(inbox, 'reading'),
    done: join(inbox, 'done'),
    refused: join(inbox, 'refused'),
  };
}

const FolderRow = z.object({ by: z.string(), since: z.string(), isMember: z.boolean() });

const FileRow = WatchedFile.omit({ message: true }).extend({
  refusal: Refusal.nullable(),
});

/** The watched folder of books as their people see it. */
export async function watchedFolderOf(
  tx: Tx,
  booksId: BooksId,
  { watchFolder }: Pick<Services, 'watchFolder'>,
): Promise<WatchedFolder> {
  const [on] = await rowsOf(
    tx,
    FolderRow,
    sql`select u.name as by, to_json(w.since) #>> '{}' as since, exists (
            select from memberships m where m.books_id = w.books_id and m.user_id = w.user_id
              and m.role in ('owner', 'bookkeeper')) as "isMember"
        from watched_folders w join users u on u.id = w.user_id where w.books_id = ${booksId}`,
  );
  const files = await rowsOf(
    tx,
    FileRow,
    sql`select f.id, f.file_name as "fileName", to_json(f.at) #>> '{}' as at, f.state, f.refusal,
          case when f.batch_ids <> '{}' and f.state <> 'reading' then (
            select coalesce(sum(b.new_count), 0) from batches b
            where b.books_id = f.books_id and b.id = any(f.batch_ids))::int end as "newCount"
        from watched_files f where f.books_id = ${booksId} order by f.at desc, f.id limit ${SHOWN}`,
  );
  return {
    folder: watchFolder === null ? null : foldersOf(watchFolder, booksId).inbox,
    isOn: on !== undefined,
    by: on?.by ?? null,
    since: on?.since ?? null,
    trouble: on === undefined ? null : await troubleOf(watchFolder, booksId, on),
    files: files.map(
      ({ refusal, ...file }): WatchedFile => ({
        ...file,
        message: refusal && refusalWords(refusal),
      }),
    ),
  };
}

async function troubleOf(
  watchFolder: string | null,
  booksId: BooksId,
  { by, isMember }: z.infer<typeof FolderRow>,
): Promise<string | null> {
  if (watchFolder === null) return messageOf('WATCH_NOT_OFFERED', {});
  if (!isMember) return messageOf('WATCH_NOBODY', { name: by });
  const { inbox } = foldersOf(watchFolder, booksId);
  return (await isOpen(inbox)) ? null : messageOf('WATCH_FOLDER_CLOSED', { folder: inbox });
}

const isOpen = (folder: string): Promise<boolean> =>
  access(folder, constants.R_OK | constants.W_OK).then(
    () => true,
    () => false,
  );

/** Makes the folders of books. @throws {ZubrellError} WATCH_FOLDER_CLOSED */
export async function makeFolders(folders: BooksFolders): Promise<void> {
  try {
    for (const folder of [folders.reading, folders.done, folders.refused]) {
      await mkdir(folder, { recursive: true });
    }
  } catch {
    fail('WATCH_FOLDER_CLOSED', { folder: folders.inbox });
  }
  if (!(await isOpen(folders.inbox))) fail('WATCH_FOLDER_CLOSED', { folder: folders.inbox });
}

/**
 * Turns watching on, in the name of whoever does so, or off. What is in the folder stays there.
 *
 * @throws {ZubrellError} WATCH_NOT_OFFERED, WATCH_FOLDER_CLOSED
 */
export async function setWatched(
  { tx, clock, booksId, actor }: BooksCommand,
  { watchFolder }: Pick<Services, 'watchFolder'>,
  isOn: boolean,
): Promise<void> {
  if (!isOn) {
    await tx.execute(sql`delete from watched_folders where books_id = ${booksId}`);
    return;
  }
  if (watchFolder === null) fail('WATCH_NOT_OFFERED');
  await makeFolders(foldersOf(watchFolder, booksId));
  await giveMandate(tx, booksId, actor);
  await tx.execute(
    sql`insert into watched_folders (books_id, user_id, since)
        values (${booksId}, ${actor.userId}, ${clock.now().toISOString()})
        on conflict (books_id) do update set user_id = excluded.user_id, since = excluded.since`,
  );
}
