import type { Readable } from 'node:stream';
import { promisify } from 'node:util';
import { fail, ZubrellError } from '@zubrell/core/errors';
import yauzl from 'yauzl';

/** An archive that is open. */
export interface ArchiveReader {
  /** A file of it; null where there is none of that name. */
  read(name: string): Promise<Readable | null>;
}

/** More than this, unpacked, no books come to: a file that says so is made to fill the disk. */
const MOST_UNPACKED = 64 * 1024 ** 3;
const MOST_FILES = 1_000_000;

const fromDescriptor = promisify<number, yauzl.Options, yauzl.ZipFile>(yauzl.fromFd);

/** Opens a ZIP file by its descriptor, which stays open. @throws {ZubrellError} ARCHIVE_UNREADABLE */
export async function openArchive(descriptor: number): Promise<ArchiveReader> {
  const zip = await fromDescriptor(descriptor, { lazyEntries: true, autoClose: false }).catch(() =>
    fail('ARCHIVE_UNREADABLE', { what: 'it is no ZIP file' }),
  );
  const entries = await listed(zip);
  const open = promisify<yauzl.Entry, Readable>(zip.openReadStream.bind(zip));
  return {
    read: async (name) => {
      const entry = entries.get(name);
      return entry ? open(entry) : null;
    },
  };
}

function listed(zip: yauzl.ZipFile): Promise<ReadonlyMap<string, yauzl.Entry>> {
  const entries = new Map<string, yauzl.Entry>();
  let unpacked = 0;
  return new Promise((done, failed) => {
    const refuse = (what: string) => failed(new ZubrellError('ARCHIVE_UNREADABLE', { what }));
    zip.on('error', () => refuse('it is broken'));
    zip.on('end', () => done(entries));
    zip.on('entry', (entry: yauzl.Entry) => {
      unpacked += entry.uncompressedSize;
      entries.set(entry.fileName, entry);
      if (unpacked > MOST_UNPACKED || entries.size > MOST_FILES) refuse('it is too large');
      else zip.readEntry();
    });
    zip.readEntry();
  });
}
