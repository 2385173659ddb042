import { createHash, randomUUID } from 'node:crypto';
import type { Readable } from 'node:stream';
import { fail, ZubrellError } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { say } from '@zubrell/core/words/say';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import {
  countRows,
  type Database,
  inBooksCopying,
  type OpenCopy,
  rowsOf,
  type Tx,
} from '../../db/database.ts';
import { errorKind, knownError } from '../../db/databaseErrors.ts';
import { refreshAllStatistics, refreshStatistics } from '../../db/refreshStatistics.ts';
import { books } from '../../db/schema/books.ts';
import { memberships } from '../../db/schema/people.ts';
import { attachments } from '../../db/schema/questions.ts';
import type { Actor, Services } from '../../services.ts';
import type { UploadedFile } from '../../uploadedFile.ts';
import { attachmentTypeOf } from '../questions/attachments.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordStep } from '../steps/recordStep.ts';
import { type ArchiveReader, openArchive } from './archiveReader.ts';
import { type ArchiveTable, archiveTables, carriedColumns, type Fixed } from './archiveTables.ts';
import { ARCHIVE_VERSION, MANIFEST, Manifest } from './manifest.ts';
import { balancesOn } from './readableTables.ts';
import { attachmentPlace } from './writeArchive.ts';

/** Begins a command on the new books. */
type Begin = (tx: Tx, booksId: BooksId) => Promise<BooksCommand>;

/** Who reads an archive in, where and when. */
export interface Reading {
  readonly database: Database;
  readonly actor: Actor;
  readonly clock: Services['clock'];
  readonly begin: Begin;
}

/**
 * Makes new books of an archive, in one transaction: all of it or nothing. What they have is as it was on the archive's
 * last day: balances to the cent, open documents, open lines.
 *
 * @returns the id of the new books; the actor owns them
 * @throws {ZubrellError} ARCHIVE_UNREADABLE, ARCHIVE_NEWER, ARCHIVE_FILE, ARCHIVE_BALANCES
 */
export async function readArchive(
  { database, actor, clock, begin }: Reading,
  file: Pick<UploadedFile, 'descriptor'>,
): Promise<BooksId> {
  const archive = await openArchive(file.descriptor);
  const manifest = await manifestOf(archive);
  const booksId = randomUUID();
  await inBooksCopying(database, booksId, async (tx, openCopy) => {
    const { currency, settings } = manifest;
    await tx.insert(books).values({ ...settings, id: booksId, currency, createdAt: clock.now() });
    await tx.insert(memberships).values({ booksId, userId: actor.userId, role: 'owner' });
    const command = await begin(tx, booksId);
    for (const table of archiveTables) {
      await readTable({ archive, manifest, openCopy }, command, table);
    }
    // What is checked when the transaction ends asks for each row.
    await refreshAllStatistics(tx);
    await readAttachments({ archive, manifest }, command);
    await checkBalances(command, manifest);
    await recordStep(command, {
      kind: 'readArchive',
      words: say`Read an archive of ${settings.name}, ${manifest.from} to ${manifest.to}`,
      items: [],
    });
    await command.follow.closingChanged(command, null);
    await command.follow.allChanged(command);
  });
  return booksId;
}

async function manifestOf(archive: ArchiveReader): Promise<Manifest> {
  const text = await bytesOf(archive, MANIFEST, 4_000_000);
  if (text === null) fail('ARCHIVE_UNREADABLE', { what: `${MANIFEST} is missing in it` });
  let said: unknown;
  try {
    said = JSON.parse(text.toString());
  } catch {
    fail('ARCHIVE_UNREADABLE', { what: `${MANIFEST} is no JSON` });
  }
  const version = z.object({ version: z.number() }).safeParse(said).data?.version ?? 0;
  if (version > ARCHIVE_VERSION) fail('ARCHIVE_NEWER', { version });
  const manifest = Manifest.safeParse(said);
  if (manifest.success) return manifest.data;
  const [issue] = manifest.error.issues;
  fail('ARCHIVE_UNREADABLE', {
    what: `${MANIFEST} says nothing of ${issue?.path.join('.') ?? 'it'}`,
  });
}

interface Source {
  readonly archive: ArchiveReader;
  readonly manifest: Manifest;
}

/** Reads one file of rows into the books. */
async function readTable(
  { archive, manifest, openCopy }: Source & { readonly openCopy: OpenCopy },
  command: BooksCommand,
  table: ArchiveTable,
): Promise<void> {
  const { tx, booksId } = command;
  const place = `data/${table.name}.csv`;
  const incoming = sql.identifier(`in_${table.name}`);
  const columns = carriedColumns(table);
  const typed = columns.map((column) => {
    const { name } = column;
    const type = column.getSQLType();
    return sql`${sql.identifier(name)} ${sql.raw(type)}${sql.raw(column.notNull && type !== 'jsonb' ? ' not null' : '')}`;
  });
  await tx.execute(
    sql`create temporary table ${incoming} (${sql.join(typed, sql`, `)}) on commit drop`,
  );
  const source = await archive.read(place);
  if (source === null) fail('ARCHIVE_FILE', { file: place, what: 'it is missing' });
  await told(place, () =>
    copyIn(openCopy(`in_${table.name}`, 'format csv, header match'), source, {
      place,
      hash: manifest.files[place],
    }),
  );
  await checkValues(tx, table, place);
  if (table.name === 'attachments') return;
  const fixed = Object.entries(table.fixed);
  const into = [sql`books_id`, ...columns.map(({ name }) => sql.identifier(name))];
  const values = [sql`${booksId}::uuid`, ...columns.map(({ name }) => sql.identifier(name))];
  for (const [name, what] of fixed) {
    into.push(sql.identifier(name));
    values.push(fixedValue(what, command));
  }
  const inserted = await told(place, () =>
    countRows(
      tx,
      sql`insert into ${table.table} (${sql.join(into, sql`, `)})
          select ${sql.join(values, sql`, `)} from ${incoming}`,
    ),
  );
  await refreshStatistics(tx, [table.name], inserted);
}

/** What a column is that the archive doesn't carry. */
function fixedValue(fixed: Fixed, { step, actor, clock }: BooksCommand): SQL {
  if ('value' in fixed) return fixed.value === null ? sql`null` : sql.raw(`'${fixed.value}'`);
  switch (fixed.is) {
    case 'step':
      return sql`${step}::bigint`;
    case 'user':
      return sql`${actor.userId}::uuid`;
    case 'now':
      return sql`${clock.now().toISOString()}::timestamptz`;
  }
}

/** Does something with a file; what the database refuses of it is told with its name. */
async function told<Done>(file: string, work: () => Promise<Done>): Promise<Done> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof ZubrellError) throw error;
    const { sqlState = '' } = errorKind(error);
    if (!/^(22|23)/.test(sqlState)) throw error;
    const what = knownError(error)?.message ?? 'a row lacks what it needs';
    fail('ARCHIVE_FILE', { file, what });
  }
}

/** Sends a file into a COPY. @throws {ZubrellError} ARCHIVE_FILE where it isn't what the archive says that it is */
async function copyIn(
  copy: ReturnType<OpenCopy>,
  source: Readable,
  { place, hash }: { readonly place: string; readonly hash: string | undefined },
): Promise<void> {
  const sum = createHash('sha256');
  try {
    for await (const piece of source as AsyncIterable<Buffer>) {
      sum.update(piece);
      await copy.write(piece);
    }
    if (sum.digest('hex') !== hash) {
      fail('ARCHIVE_FILE', { file: place, what: 'its content isn’t what was saved' });
    }
    await copy.end();
  } catch (error) {
    copy.abort(error instanceof Error ? error : new Error('reading failed'));
    throw error;
  }
}

const ValueRow = z.object({ value: z.string() });

/** Whether what stands in a file can stand in the books. @throws {ZubrellError} ARCHIVE_FILE */
async function checkValues(tx: Tx, table: ArchiveTable, place: string): Promise<void> {
  const incoming = sql.identifier(`in_${table.name}`);
  for (const { name, enumValues } of carriedColumns(table)) {
    if (!enumValues || enumValues.length === 0) continue;
    const [wrong] = await rowsOf(
      tx,
      ValueRow,
      sql`select ${sql.identifier(name)} as value from ${incoming}
          where ${sql.identifier(name)} <> all(${sql.param(enumValues)}::text[]) limit 1`,
    );
    if (wrong) fail('ARCHIVE_FILE', { file: place, what: `there is no ${name} “${wrong.value}”` });
  }
  for (const [name, schema] of Object.entries(table.json)) {
    const values = await rowsOf(
      tx,
      ValueRow,
      sql`select distinct ${sql.identifier(name)}::text as value from ${incoming}
          where ${sql.identifier(name)} is not null`,
    );
    const isWrong = values.some(({ value }) => !schema.safeParse(JSON.parse(value)).success);
    if (isWrong) fail('ARCHIVE_FILE', { file: place, what: `a ${name} can’t be read` });
  }
}

/** Larger than any attachment that was ever taken. */
const LARGEST = 11 * 1024 * 1024;

const AttachmentRow = z.object({
  id: z.string(),
  fileName: z.string(),
  lineId: z.string().nullable(),
  documentId: z.string().nullable(),
  entryId: z.string().nullable(),
  at: z.string(),
});

/** Keeps the attachments with what they were kept with. */
async function readAttachments(
  { archive, manifest }: Source,
  { tx, booksId, actor }: BooksCommand,
): Promise<void> {
  const archived = await rowsOf(
    tx,
    AttachmentRow,
    sql`select id, file_name as "fileName", line_id as "lineId", document_id as "documentId",
          entry_id as "entryId", to_json(at) #>> '{}' as at from in_attachments order by id`,
  );
  for (const { at, ...attachment } of archived) {
    const place = attachmentPlace(attachment.id, attachment.fileName);
    const bytes = await bytesOf(archive, place, LARGEST);
    const type = bytes && attachmentTypeOf(bytes);
    const isWhole =
      bytes && createHash('sha256').update(bytes).digest('hex') === manifest.files[place];
    if (!bytes || !isWhole || !type) {
      fail('ARCHIVE_FILE', { file: place, what: 'its content isn’t what was saved' });
    }
    await told(place, () =>
      tx.insert(attachments).values({
        ...attachment,
        booksId,
        type,
        size: bytes.length,
        bytes,
        addedBy: actor.userId,
        at: new Date(at),
      }),
    );
  }
}

/** A file of an archive, whole; null where it isn't there, or is larger than anything of its kind. */
async function bytesOf(
  archive: ArchiveReader,
  place: string,
  most: number,
): Promise<Buffer | null> {
  const source = await archive.read(place);
  if (source === null) return null;
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of source as AsyncIterable<Buffer>) {
    size += piece.length;
    if (size > most) return null;
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}

const BalanceRow = z.object({ code: z.string(), amount: z.int() });

/** The new books come to what the archive says, account by account. @throws {ZubrellError} ARCHIVE_BALANCES */
async function checkBalances(
  { tx, booksId }: BooksCommand,
  { balances, to }: Manifest,
): Promise<void> {
  const rows = await rowsOf(
    tx,
    BalanceRow,
    sql`select a.code, b.amount from ${balancesOn(booksId, to)} b
        join accounts a on a.books_id = ${booksId} and a.id = b.account_id`,
  );
  const now = new Map(rows.map(({ code, amount }) => [code, amount]));
  const codes = [...new Set([...now.keys(), ...Object.keys(balances)])].sort();
  const wrong = codes.filter((code) => (now.get(code) ?? 0) !== (balances[code] ?? 0));
  if (wrong.length > 0) fail('ARCHIVE_BALANCES', { accounts: wrong.slice(0, 5).join(', ') });
}
