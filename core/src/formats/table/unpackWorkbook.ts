import { Inflate } from 'fflate';
import { fail } from '../../errors.ts';

/** Parts that say what stands in the cells; pictures, notes and the like are left packed. */
const WANTED =
  /^(\[Content_Types\]\.xml|_rels\/\.rels|xl\/(workbook|styles|sharedStrings)\.xml|xl\/_rels\/workbook\.xml\.rels|xl\/worksheets\/[^/]+\.xml|xl\/theme\/[^/]+\.xml)$/;

/** So much may come out of a small workbook, in bytes. */
const SMALL = 10_000_000;
/** What goes beyond half a megabyte may unpack to so many times its size. */
const MOST_TIMES = 20;
/** No workbook of a bank is larger. */
const MOST = 150_000_000;
const MOST_PARTS = 2_000;
const PIECE = 65_536;

const END = 0x06054b50;
const CENTRAL = 0x02014b50;
const LOCAL = 0x04034b50;
const END_LENGTH = 22;
const CENTRAL_LENGTH = 46;
const LOCAL_LENGTH = 30;
const LONGEST_COMMENT = 65_535;
/** Some writers put a part's size and sum behind it. */
const DESCRIPTOR_LENGTH = 24;
const ENCRYPTED = 1;
const STORED = 0;
const DEFLATED = 8;

/** A part of an archive, as its table of contents says. */
interface Part {
  readonly name: string;
  readonly method: number;
  readonly size: number;
  /** Where its own header begins, where its packed bytes begin and end. */
  readonly from: number;
  readonly data: number;
  readonly to: number;
}

/**
 * Unpacks the parts of a workbook that say what stands in its cells: once, within limits, by the archive's table of
 * contents, so that what is measured is what is read. Parts that overlap, are there twice or stand beside the table of
 * contents are refused.
 *
 * @throws {ZubrellError} FILE_UNKNOWN where it is no workbook, FILE_ZIP_BROKEN, FILE_ZIP_BOMB
 * @see PKWARE .ZIP File Format Specification 6.3.10, section 4.3
 */
export function unpackWorkbook(bytes: Uint8Array): Record<string, Uint8Array> {
  const parts = partsOf(bytes);
  if (!parts.some(({ name }) => name === 'xl/workbook.xml')) fail('FILE_UNKNOWN');
  let left = Math.min(MOST, Math.max(SMALL, MOST_TIMES * (bytes.length - 500_000)));
  const limit = Math.round(left / 1e6);
  const unpacked: Record<string, Uint8Array> = {};
  for (const part of parts) {
    if (!WANTED.test(part.name)) continue;
    const whole = unpack(bytes.subarray(part.data, part.to), part, left, limit);
    left -= whole.length;
    unpacked[part.name] = whole;
  }
  return unpacked;
}

/** Unpacks one part. @param left how much may come out; @param limit of all parts, in MB, for the message */
function unpack(
  packed: Uint8Array,
  { method, size }: Part,
  left: number,
  limit: number,
): Uint8Array {
  if (size > left) fail('FILE_ZIP_BOMB', { limit });
  if (method === STORED) return packed.length === size ? packed : broken();
  if (method !== DEFLATED) broken();
  const whole = new Uint8Array(size);
  let length = 0;
  const inflate = new Inflate((piece) => {
    if (length + piece.length > size) broken();
    whole.set(piece, length);
    length += piece.length;
  });
  try {
    for (let at = 0; at < packed.length; at += PIECE) {
      inflate.push(packed.subarray(at, at + PIECE), at + PIECE >= packed.length);
    }
  } catch {
    broken();
  }
  return length === size ? whole : broken();
}

/** The table of contents, checked: every part is where it says, once, and nothing else is in the file. */
function partsOf(bytes: Uint8Array): readonly Part[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const end = endOf(view);
  const count = view.getUint16(end + 10, true);
  const central = view.getUint32(end + 16, true);
  if (count > MOST_PARTS) fail('FILE_ZIP_BOMB', { limit: Math.round(SMALL / 1e6) });
  const parts: Part[] = [];
  const names = new Set<string>();
  let at = central;
  for (let no = 0; no < count; no += 1) {
    if (at + CENTRAL_LENGTH > end || view.getUint32(at, true) !== CENTRAL) broken();
    const length = view.getUint16(at + 28, true);
    const name = new TextDecoder().decode(
      bytes.subarray(at + CENTRAL_LENGTH, at + CENTRAL_LENGTH + length),
    );
    if (names.has(name) || (view.getUint16(at + 8, true) & ENCRYPTED) !== 0) broken();
    names.add(name);
    const from = view.getUint32(at + 42, true);
    if (from + LOCAL_LENGTH > central || view.getUint32(from, true) !== LOCAL) broken();
    const data =
      from + LOCAL_LENGTH + view.getUint16(from + 26, true) + view.getUint16(from + 28, true);
    const to = data + view.getUint32(at + 20, true);
    if (to > central) broken();
    const [method, size] = [view.getUint16(at + 10, true), view.getUint32(at + 24, true)];
    parts.push({ name, method, size, from, data, to });
    at += CENTRAL_LENGTH + length + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
  }
  if (at !== end) broken();
  let before = 0;
  for (const { from, to } of [...parts].sort((a, b) => a.from - b.from)) {
    if (from < before || from - before > DESCRIPTOR_LENGTH) broken();
    before = to;
  }
  if (central - before > DESCRIPTOR_LENGTH) broken();
  return parts;
}

/** Where the end record begins: as near to the end of the file as its comment lets it. */
function endOf(view: DataView): number {
  const last = view.byteLength - END_LENGTH;
  for (let at = last; at >= Math.max(0, last - LONGEST_COMMENT); at -= 1) {
    if (view.getUint32(at, true) !== END) continue;
    if (at + END_LENGTH + view.getUint16(at + 20, true) === view.byteLength) return at;
  }
  return broken();
}

function broken(): never {
  return fail('FILE_ZIP_BROKEN');
}
