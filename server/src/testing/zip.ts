import { once } from 'node:events';
import { promisify } from 'node:util';
import yauzl from 'yauzl';
import yazl from 'yazl';

/** The files of a ZIP file, by their names. */
export async function unzipped(bytes: Buffer): Promise<Map<string, Buffer>> {
  const open = promisify<Buffer, yauzl.Options, yauzl.ZipFile>(yauzl.fromBuffer);
  const zip = await open(bytes, { lazyEntries: true });
  const entries: yauzl.Entry[] = [];
  zip.on('entry', (entry: yauzl.Entry) => {
    entries.push(entry);
    zip.readEntry();
  });
  zip.readEntry();
  await once(zip, 'end');
  const files = new Map<string, Buffer>();
  for (const entry of entries) {
    const pieces: Buffer[] = [];
    const source = await promisify(zip.openReadStream.bind(zip) as never)(entry as never);
    for await (const piece of source as AsyncIterable<Buffer>) pieces.push(piece);
    files.set(entry.fileName, Buffer.concat(pieces));
  }
  return files;
}

/** A ZIP file of files. */
export async function zipped(files: ReadonlyMap<string, Buffer>): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  for (const [name, content] of files) zip.addBuffer(content, name);
  zip.end();
  const pieces: Buffer[] = [];
  for await (const piece of zip.outputStream) pieces.push(Buffer.from(piece));
  return Buffer.concat(pieces);
}
