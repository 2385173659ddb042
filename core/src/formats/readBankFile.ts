import { fail } from '../errors.ts';
import type { BankFile } from './bankFile.ts';
import { readCamt } from './camt/readCamt.ts';
import { readCsv } from './csv/readCsv.ts';
import { decodeBytes } from './decodeBytes.ts';
import { readMt } from './mt/readMt.ts';
import { createOfxBuilder } from './ofx/ofxBuilder.ts';
import { readOfxSgml } from './ofx/readOfxSgml.ts';
import { readOfxXml } from './ofx/readOfxXml.ts';
import { readQif } from './qif/readQif.ts';

/** The format is told from this much of the file. */
const HEAD = 4_096;

/**
 * Reads a bank file, by its content and never by its name.
 *
 * @param bytes the whole file
 * @param booksCurrency ISO 4217; used where the file names no currency
 * @returns its statements, and every problem with its place
 * @throws {ZubrellError} FILE_EMPTY, FILE_UNKNOWN where it is no bank file at all
 */
export function readBankFile(bytes: Uint8Array, booksCurrency: string): BankFile {
  if (bytes.length === 0) fail('FILE_EMPTY');
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, HEAD)).replaceAll('\0', '');
  if (/<OFX[\s>]|^\W*OFXHEADER\s*:|<\?OFX\s/i.test(head)) return readOfx(bytes, head);
  const isXml = /^\W*<(\?xml|(\w+:)?Document[\s>])/i.test(head);
  const decoded = decodeBytes(bytes, isXml ? xmlEncoding(head) : null);
  if (decoded.text.includes('\0')) fail('FILE_UNKNOWN');
  const reading = readText(decoded.text, isXml, booksCurrency);
  return {
    ...reading,
    encoding: decoded.encoding,
    problems: [...decoded.problems, ...reading.problems],
  };
}

function readText(text: string, isXml: boolean, booksCurrency: string): Omit<BankFile, 'encoding'> {
  if (isXml) {
    if (!/BkToCstmr(Stmt|AcctRpt|DbtCdtNtfctn)/.test(text)) fail('FILE_UNKNOWN');
    return { format: 'camt', ...readCamt(text, booksCurrency) };
  }
  if (/^:20:/m.test(text) && /^:25:/m.test(text)) {
    return { format: 'mt940', ...readMt(text, booksCurrency) };
  }
  if (/^\s*!(Type|Account|Option)/i.test(text)) {
    return { format: 'qif', ...readQif(text, booksCurrency) };
  }
  const { statement, problems } = readCsv(text, booksCurrency);
  if (statement === null) fail('FILE_UNKNOWN');
  return { format: 'csv', statements: [statement], problems };
}

function readOfx(bytes: Uint8Array, head: string): BankFile {
  const isXml = /<\?xml|<\?OFX\s/i.test(head);
  const decoded = decodeBytes(bytes, isXml ? xmlEncoding(head) : sgmlEncoding(head));
  const builder = createOfxBuilder();
  if (isXml) readOfxXml(decoded.text, builder);
  else readOfxSgml(decoded.text, builder);
  return {
    format: isXml ? 'ofx2' : 'ofx1',
    encoding: decoded.encoding,
    statements: builder.statements,
    problems: [...decoded.problems, ...builder.problems],
  };
}

function xmlEncoding(head: string): string {
  return /<\?xml[^>]*encoding\s*=\s*["']([\w-]+)["']/i.exec(head)?.[1] ?? 'utf-8';
}

/** The character set an OFX 1.x header names: ENCODING and, for USASCII, CHARSET (OFX 1.6, 2.2). */
function sgmlEncoding(head: string): string | null {
  const encoding = /ENCODING\s*:\s*([\w-]+)/i.exec(head)?.[1] ?? '';
  if (/^(UTF-?8|UNICODE)$/i.test(encoding)) return 'utf-8';
  const charset = /CHARSET\s*:\s*([\w-]+)/i.exec(head)?.[1] ?? '';
  return /^(NONE)?$/i.test(charset) ? null : charset;
}
