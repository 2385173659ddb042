import type { Problem } from './bankFile.ts';
import { problem } from './problems.ts';

/** Turns a file's bytes into text, piece by piece. */
export interface Decoder {
  /** The character set in use so far. */
  readonly encoding: string;
  /** The text of the next bytes. @param isLast whether nothing comes behind them */
  decode(bytes: Uint8Array, isLast: boolean): string;
}

/** The longest sequence of UTF-8 that a piece can end in the middle of. */
const LONGEST_CUT = 3;

/**
 * Decodes a file by its byte-order mark, else as what it claims to be, else as UTF-8 and from the first
 * bytes that are not as windows-1252. Bytes that are not what the file claims are a notice at
 * their line.
 *
 * @param head the first bytes of the file
 * @param claimed the character set the file's own header names, or null
 * @param problems takes the notice
 */
export function createDecoder(
  head: Uint8Array,
  claimed: string | null,
  problems: Problem[],
): Decoder {
  const marked = byteOrderMark(head);
  const wanted = marked ?? knownEncoding(claimed);
  if (wanted !== null && wanted !== 'utf-8') {
    const decoder = new TextDecoder(wanted);
    return {
      encoding: wanted,
      decode: (bytes, isLast) => decoder.decode(bytes, { stream: !isLast }),
    };
  }
  const strict = new TextDecoder('utf-8', { fatal: true });
  const fallback = new TextDecoder('windows-1252');
  let encoding = 'utf-8';
  let cut: Uint8Array = new Uint8Array();
  let line = 1;
  return {
    get encoding() {
      return encoding;
    },
    decode(bytes, isLast) {
      if (encoding !== 'utf-8') return fallback.decode(bytes);
      const whole = cut.length === 0 ? bytes : joined(cut, bytes);
      const end = isLast ? whole.length : endOfWhole(whole);
      cut = whole.slice(end);
      const piece = whole.subarray(0, end);
      try {
        const text = strict.decode(piece);
        if (wanted !== null) line += countOf(text, '\n');
        return text;
      } catch {
        encoding = 'windows-1252';
        if (wanted !== null) {
          const lossy = new TextDecoder('utf-8').decode(piece);
          const at = line + countOf(lossy.slice(0, lossy.indexOf('\ufffd')), '\n');
          const params = { claimed: claimed ?? 'UTF-8', used: encoding };
          problems.push(problem('notice', 'FILE_ENCODING', params, { line: at }));
        }
        return fallback.decode(whole);
      }
    },
  };
}

/** The character set a byte-order mark stands for, or null. */
function byteOrderMark(bytes: Uint8Array): string | null {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return 'utf-8';
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  return null;
}

/** The decoder's name of a character set, or null where it is unknown. */
function knownEncoding(claimed: string | null): string | null {
  if (claimed === null || claimed.trim() === '') return null;
  const name = claimed.trim().toLowerCase();
  try {
    return new TextDecoder(/^\d+$/.test(name) ? `windows-${name}` : name).encoding;
  } catch {
    return null;
  }
}

/** Where the last whole character of a piece of UTF-8 ends. */
function endOfWhole(bytes: Uint8Array): number {
  for (let back = 1; back <= Math.min(LONGEST_CUT, bytes.length); back += 1) {
    const byte = bytes[bytes.length - back] ?? 0;
    if (byte < 0x80) break;
    const length = byte >= 0xf0 ? 4 : byte >= 0xe0 ? 3 : byte >= 0xc0 ? 2 : 0;
    if (length > 0) return length > back ? bytes.length - back : bytes.length;
  }
  return bytes.length;
}

/** Puts pieces of bytes together; one alone is given as it is. */
export function joined(...pieces: readonly Uint8Array[]): Uint8Array {
  const [only] = pieces;
  if (only !== undefined && pieces.length === 1) return only;
  const whole = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}

function countOf(text: string, mark: string): number {
  let count = 0;
  for (let at = text.indexOf(mark); at >= 0; at = text.indexOf(mark, at + 1)) count += 1;
  return count;
}
