import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { PassThrough, Readable, Transform } from 'node:stream';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import { type ArchiveFile, archivePage } from '@zubrell/core/handover/archivePage';
import type { BooksId } from '@zubrell/core/ids';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { sql } from 'drizzle-orm';
import yazl from 'yazl';
import { z } from 'zod';
import { type CopyOut, type Database, inBooksStill, rowsOf, type Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { settingsOf } from '../books/changeBooks.ts';
import { booksCurrency } from '../books/queries.ts';
import { archiveTables } from './archiveTables.ts';
import { type ArchivePeriod, gatherArchive, gatheredIn } from './gatherArchive.ts';
import { ARCHIVE_VERSION, KeptSettings, MANIFEST, type Manifest } from './manifest.ts';
import { balancesOn, gatherReadable, type ReadableFile } from './readableTables.ts';

/** In whose name, and when, an archive is written. */
interface Writing {
  readonly booksId: BooksId;
  readonly actor: Actor;
  readonly clock: Services['clock'];
}

const BalanceRow = z.object({ code: z.string(), amount: z.int() });
const AttachmentRow = z.object({ id: z.string(), fileName: z.string() });
const CountRow = z.object({ count: z.int() });
const BytesRow = z.object({ bytes: z.instanceof(Buffer) });

/**
 * Writes all of a period as one ZIP file, as it is read from the database: it is never whole in memory, and all of it is
 * as the books were when it began.
 *
 * @param database of which it keeps one connection until the file is written
 * @returns the file; it ends with an error where it can't be written to its end
 */
export function writeArchive(
  database: Database,
  writing: Writing,
  period: ArchivePeriod,
): Readable {
  const file = new PassThrough();
  inBooksStill(database, writing.booksId, async (tx, copyOut) => {
    await gatherArchive(tx, writing.booksId, period);
    const readable = await gatherReadable(tx, writing.booksId, period);
    const zip = new yazl.ZipFile();
    zip.on('error', (error) => file.destroy(error));
    const packed = zip.outputStream.pipe(file, { end: false });
    await fill(zip, { tx, copyOut, ...writing }, period, readable);
    zip.end();
    await Promise.race([once(zip.outputStream, 'end'), closed(packed)]);
  }).then(
    () => file.end(),
    (error: Error) => file.destroy(error),
  );
  return file;
}

/** Fails where whoever takes the file goes away before its end. */
async function closed(file: PassThrough): Promise<void> {
  await once(file, 'close');
  throw new Error('the archive was not taken to its end');
}

type Filling = Writing & { readonly tx: Tx; readonly copyOut: CopyOut };

/** Puts the files into a ZIP file one by one: each is read when the one before is written. */
async function fill(
  zip: yazl.ZipFile,
  filling: Filling,
  period: ArchivePeriod,
  readable: readonly ReadableFile[],
): Promise<void> {
  const { tx, booksId, copyOut } = filling;
  const hashes: Record<string, string> = {};
  const named: ArchiveFile[] = [];
  for (const { table, name, what } of readable) {
    const [rows] = await rowsOf(
      tx,
      CountRow,
      sql`select count(*)::int as count from ${sql.identifier(table)}`,
    );
    const count = rows?.count ?? 0;
    if (count === 0) continue;
    named.push({ name, what, count });
    zip.addReadStreamLazy(name, (done) => done(null, copyOut(table)));
  }
  for (const { name } of archiveTables) {
    const place = `data/${name}.csv`;
    zip.addReadStreamLazy(place, (done) =>
      done(
        null,
        hashed(copyOut(gatheredIn(name)), (hash) => (hashes[place] = hash)),
      ),
    );
  }
  const attachments = await rowsOf(
    tx,
    AttachmentRow,
    sql`select id, file_name as "fileName" from ${sql.identifier(gatheredIn('attachments'))} order by id`,
  );
  for (const { id, fileName } of attachments) {
    const place = attachmentPlace(id, fileName);
    zip.addReadStreamLazy(place, (done) => {
      rowsOf(
        tx,
        BytesRow,
        sql`select bytes from attachments where books_id = ${booksId} and id = ${id}`,
      ).then(
        ([attachment]) => {
          const bytes = attachment?.bytes ?? Buffer.alloc(0);
          hashes[place] = createHash('sha256').update(bytes).digest('hex');
          done(null, Readable.from([bytes]));
        },
        (error: Error) => done(error, Readable.from([])),
      );
    });
  }
  if (attachments.length > 0) {
    named.push({
      name: 'attachments',
      what: 'Attachments, as they are',
      count: attachments.length,
    });
  }
  const facts = await factsOf(filling, period);
  const page = archivePage({ ...facts.page, files: named });
  zip.addBuffer(Buffer.from(page), 'index.html');
  // Written last, when the sums of all others are known.
  zip.addReadStreamLazy(MANIFEST, (done) =>
    done(null, Readable.from([JSON.stringify({ ...facts.manifest, files: hashes }, null, 2)])),
  );
}

/** Where an attachment stands in an archive: its name may come twice, and may say where it wants to be put. */
export function attachmentPlace(id: string, fileName: string): string {
  const plain = fileName.replaceAll(/[\\/:\p{Cc}]/gu, '_').replace(/^\.+/, '_');
  return `attachments/${id}/${plain || 'paper'}`;
}

/** A stream that tells the SHA-256 of all that went through it. */
function hashed(source: Readable, tell: (hash: string) => void): Readable {
  const hash = createHash('sha256');
  const through = new Transform({
    transform(piece: Buffer, _encoding, next) {
      hash.update(piece);
      next(null, piece);
    },
    flush(next) {
      tell(hash.digest('hex'));
      next();
    },
  });
  source.on('error', (error) => through.destroy(error));
  return source.pipe(through);
}

/** What the archive says of itself. */
async function factsOf({ tx, booksId, actor, clock }: Filling, { from, to }: ArchivePeriod) {
  const currency = await booksCurrency(tx, booksId);
  const settings = KeptSettings.parse(await settingsOf(tx, booksId));
  const balances = await rowsOf(
    tx,
    BalanceRow,
    sql`select a.code, b.amount from ${balancesOn(booksId, to)} b
        join accounts a on a.books_id = ${booksId} and a.id = b.account_id order by a.code`,
  );
  const sum = (sign: 1 | -1) =>
    formatAmount(
      balances.reduce((total, { amount }) => total + Math.max(sign * amount, 0), 0),
      currency,
    );
  const manifest: Omit<Manifest, 'files'> = {
    kind: 'zubrell archive',
    version: ARCHIVE_VERSION,
    currency,
    from,
    to,
    settings,
    balances: Object.fromEntries(balances.map(({ code, amount }) => [code, amount])),
  };
  const page = {
    books: settings.name,
    currency,
    from,
    to,
    madeAt: formatLongDate(clock.today()),
    madeBy: actor.name,
    debits: sum(1),
    credits: sum(-1),
  };
  return { manifest, page };
}

/** @throws {ZubrellError} REPORT_TURNED where a period ends before it begins */
export function checkPeriod({ from, to }: ArchivePeriod): void {
  if (from > to) {
    fail('REPORT_TURNED', { from: formatLongDate(from), to: formatLongDate(to) });
  }
}
