import type { Problem } from './bankFile.ts';
import { problem } from './problems.ts';

/** A file's text and how it was decoded. */
export interface DecodedText {
  readonly text: string;
  readonly encoding: string;
  readonly problems: readonly Problem[];
}

/**
 * Turns a file's bytes into text: by its byte-order mark, else as what it claims to be, else as
 * UTF-8, else as windows-1252. Bytes that are not what the file claims are a notice at their line.
 *
 * @param claimed the character set the file's own header names, or null
 * @example decodeBytes(new TextEncoder().encode('é'), null).encoding // 'utf-8'
 */
export function decodeBytes(bytes: Uint8Array, claimed: string | null): DecodedText {
  const marked = byteOrderMark(bytes);
  if (marked) return { text: decode(bytes, marked), encoding: marked, problems: [] };
  const wanted = knownEncoding(claimed);
  if (wanted !== null && wanted !== 'utf-8') {
    return { text: decode(bytes, wanted), encoding: wanted, problems: [] };
  }
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return { text, encoding: 'utf-8', problems: [] };
  } catch {
    const used = 'windows-1252';
    const text = decode(bytes, used);
    if (wanted === null) return { text, encoding: used, problems: [] };
    const line = lineOfFirstInvalid(bytes);
    const notice = problem('notice', 'FILE_ENCODING', { claimed: claimed ?? '', used }, { line });
    return { text, encoding: used, problems: [notice] };
  }
}

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

function decode(bytes: Uint8Array, encoding: string): string {
  return new TextDecoder(encoding).decode(bytes);
}

/** The line of the first byte that is not UTF-8: replaced characters show where it is. */
function lineOfFirstInvalid(bytes: Uint8Array): number {
  const text = new TextDecoder('utf-8').decode(bytes);
  const at = text.indexOf('\ufffd');
  return text.slice(0, Math.max(at, 0)).split('\n').length;
}
