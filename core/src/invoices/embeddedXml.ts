import { Unzlib } from 'fflate';
import { fail } from '../errors.ts';

/** No invoice's XML is larger, unpacked. */
const LARGEST = 10 * 1024 * 1024;

/**
 * The XML that is embedded in a PDF, as hybrid invoices have it (PDF 2.0, 7.11.4: embedded file streams). A stream is
 * never inside another object, so the file is searched for them without reading its tables.
 *
 * @returns the first embedded file that is an electronic invoice, as text
 * @throws {ZubrellError} INVOICE_NO_XML
 */
export function embeddedXml(pdf: Uint8Array): string {
  // Bytes as characters of the same number, so that places in the text are places in the file.
  const text = new TextDecoder('latin1').decode(pdf);
  for (const match of text.matchAll(/\/Type\s*\/EmbeddedFile\b/g)) {
    const head = text.lastIndexOf('obj', match.index);
    const start = text.indexOf('stream', match.index);
    if (head === -1 || start === -1 || start - head > 4_096) continue;
    const dictionary = text.slice(head, start);
    const from = start + 'stream'.length + (text.startsWith('\r\n', start + 6) ? 2 : 1);
    const end = text.indexOf('endstream', from);
    if (end === -1) continue;
    const bytes = unpacked(pdf.subarray(from, end), /\/FlateDecode\b/.test(dictionary));
    if (bytes === null) continue;
    const xml = new TextDecoder().decode(bytes);
    if (/<(?:\w+:)?(?:Invoice|CreditNote|CrossIndustryInvoice)[\s>]/.test(xml)) return xml;
  }
  return fail('INVOICE_NO_XML');
}

/** Fed piece by piece, so that a bomb is stopped before it fills the memory. */
const PIECE = 65_536;

function unpacked(bytes: Uint8Array, isDeflated: boolean): Uint8Array | null {
  if (!isDeflated) return bytes.length > LARGEST ? null : bytes;
  const found: Uint8Array[] = [];
  let size = 0;
  const inflate = new Unzlib((piece) => {
    found.push(piece);
    size += piece.length;
  });
  try {
    for (let at = 0; at < bytes.length; at += PIECE) {
      inflate.push(bytes.subarray(at, at + PIECE), at + PIECE >= bytes.length);
      if (size > LARGEST) return null;
    }
  } catch {
    // Ends of lines before the end of a stream are no part of it; what was read by then stands.
    if (size === 0) return null;
  }
  const whole = new Uint8Array(size);
  let place = 0;
  for (const piece of found) {
    whole.set(piece, place);
    place += piece.length;
  }
  return whole;
}

/** Whether bytes are a PDF. */
export function isPdf(bytes: Uint8Array): boolean {
  return new TextDecoder('latin1').decode(bytes.subarray(0, 5)) === '%PDF-';
}
