import { fail } from '../errors.ts';
import type {
  BankFile,
  BankFileFacts,
  BankLine,
  FileFormat,
  Problem,
  TakeLine,
} from './bankFile.ts';
import { createCamtReader } from './camt/readCamt.ts';
import { cutTexts } from './cutTexts.ts';
import { createDecoder, type Decoder, joined } from './decodeBytes.ts';
import { readMt } from './mt/readMt.ts';
import { createOfxBuilder } from './ofx/ofxBuilder.ts';
import { createOfxReader } from './ofx/readOfx.ts';
import { problem } from './problems.ts';
import { readQif } from './qif/readQif.ts';
import { csvRows, delimiterOf } from './table/csvRows.ts';
import { readTable, type TableReading } from './table/readTable.ts';
import type { LayoutChoices } from './table/tableLayout.ts';
import { isZip, xlsxRows } from './table/xlsxRows.ts';
import type { TextReader } from './textReader.ts';
import { watchIds } from './watchIds.ts';

/** How a bank file is to be read. */
export interface ReadOptions {
  /** ISO 4217; used where the file names no currency. */
  readonly currency: string;
  /** What somebody chose of a table's layout. */
  readonly choices?: LayoutChoices | undefined;
}

/** Reads a bank file as its bytes come in. */
export interface BankFileReader {
  /** @throws {ZubrellError} FILE_UNKNOWN where it is no bank file at all */
  write(bytes: Uint8Array): void;
  /**
   * The file is over.
   *
   * @throws {ZubrellError} FILE_EMPTY, FILE_UNKNOWN, FILE_ZIP_BOMB, FILE_ZIP_BROKEN
   */
  end(): Promise<BankFileFacts>;
}

/** Reads what it is given, by one format. */
interface FormatReader {
  write(bytes: Uint8Array): void;
  end(): Promise<BankFileFacts>;
}

/** The format is told from this much of the file. */
const HEAD = 4_096;
/** A file with more that can't be read is none of the kind it seems. */
const MOST_PROBLEMS = 1_000;

/**
 * Starts reading a bank file, by its content and never by its name. OFX and camt are read piece by
 * piece and need little memory whatever their size; of the others the whole is held.
 *
 * @param takeLine takes each line, in the file's order
 */
export function createBankFileReader(options: ReadOptions, takeLine: TakeLine): BankFileReader {
  const texts = cutTexts(takeLine);
  const ids = watchIds(texts.take);
  let waiting: Uint8Array[] = [];
  let size = 0;
  let reader: FormatReader | null = null;

  function begin(): FormatReader {
    const head = joined(...waiting);
    const begun = formatReader(head.subarray(0, HEAD), options, ids.take);
    begun.write(head);
    waiting = [];
    return begun;
  }

  return {
    write(bytes) {
      size += bytes.length;
      if (reader !== null) reader.write(bytes);
      else {
        waiting.push(bytes);
        if (size >= HEAD) reader = begin();
      }
    },
    async end() {
      if (size === 0) fail('FILE_EMPTY');
      const facts = await (reader ?? begin()).end();
      const problems = [...facts.problems, ...ids.notices(facts.format), ...texts.notices()];
      return { ...facts, problems: cutProblems(problems) };
    },
  };
}

/**
 * Reads a whole bank file, by its content and never by its name.
 *
 * @returns its statements, and every problem with its place
 * @throws {ZubrellError} FILE_EMPTY, FILE_UNKNOWN where it is no bank file at all, FILE_ZIP_BOMB,
 *   FILE_ZIP_BROKEN
 */
export async function readBankFile(bytes: Uint8Array, options: ReadOptions): Promise<BankFile> {
  const lines: BankLine[][] = [];
  const reader = createBankFileReader(options, (statement, line) => {
    const own = lines[statement];
    if (own) own.push(line);
    else lines[statement] = [line];
  });
  if (bytes.length > 0) reader.write(bytes);
  const facts = await reader.end();
  return {
    ...facts,
    statements: facts.statements.map((each, index) => ({ ...each, lines: lines[index] ?? [] })),
  };
}

function formatReader(head: Uint8Array, options: ReadOptions, takeLine: TakeLine): FormatReader {
  const text = new TextDecoder('latin1').decode(head).replaceAll('\0', '');
  if (/<OFX[\s>]|^\W*OFXHEADER\s*:|<\?OFX\s/i.test(text)) return ofxReader(head, text, takeLine);
  if (/^\W*<(\?xml|(\w+:)?Document[\s>])/i.test(text)) {
    return camtReader(head, text, options, takeLine);
  }
  return wholeReader(options, takeLine);
}

function ofxReader(head: Uint8Array, text: string, takeLine: TakeLine): FormatReader {
  const isXml = /<\?xml|<\?OFX\s/i.test(text);
  const builder = createOfxBuilder(takeLine);
  const { problems, statements } = builder;
  const decoder = createDecoder(head, isXml ? xmlEncoding(text) : sgmlEncoding(text), problems);
  return textFormat(isXml ? 'ofx2' : 'ofx1', decoder, createOfxReader(builder), {
    statements,
    problems,
  });
}

function camtReader(
  head: Uint8Array,
  text: string,
  { currency }: ReadOptions,
  takeLine: TakeLine,
): FormatReader {
  const problems: Problem[] = [];
  const decoder = createDecoder(head, xmlEncoding(text), problems);
  const reader = createCamtReader(currency, takeLine, problems);
  const { statements } = reader;
  const begun = textFormat('camt', decoder, reader, { statements, problems });
  return {
    write: begun.write,
    async end() {
      const facts = await begun.end();
      if (!reader.isCamt) fail('FILE_UNKNOWN');
      return facts;
    },
  };
}

/** A format that is read as its text comes in. */
function textFormat(
  format: FileFormat,
  decoder: Decoder,
  reader: TextReader,
  found: Pick<BankFileFacts, 'statements' | 'problems'>,
): FormatReader {
  return {
    write: (bytes) => reader.write(decoder.decode(bytes, false)),
    async end() {
      reader.write(decoder.decode(new Uint8Array(), true));
      reader.end();
      return { format, encoding: decoder.encoding, layout: null, openDate: null, ...found };
    },
  };
}

/** The formats of which the whole is needed at once. */
function wholeReader(options: ReadOptions, takeLine: TakeLine): FormatReader {
  const pieces: Uint8Array[] = [];
  return {
    write: (bytes) => pieces.push(bytes),
    async end() {
      const file = await readWhole(joined(...pieces), options);
      for (const [index, { lines }] of file.statements.entries()) {
        for (const line of lines) takeLine(index, line);
      }
      const statements = file.statements.map(({ lines: _lines, ...facts }) => facts);
      return { ...file, statements };
    },
  };
}

async function readWhole(bytes: Uint8Array, options: ReadOptions): Promise<BankFile> {
  if (isZip(bytes)) return readWorkbook(bytes, options);
  const problems: Problem[] = [];
  const claimed = options.choices?.encoding ?? null;
  const decoder = createDecoder(bytes, claimed, claimed === null ? problems : []);
  const text = decoder.decode(bytes, true);
  if (text.includes('\0')) fail('FILE_UNKNOWN');
  const { encoding } = decoder;
  const { currency, choices = {} } = options;
  const read = (
    format: FileFormat,
    reading: Pick<BankFile, 'statements' | 'problems' | 'openDate'>,
  ) => ({
    ...reading,
    format,
    encoding,
    layout: null,
    problems: [...problems, ...reading.problems],
  });
  if (/^:20:/m.test(text) && /^:25:/m.test(text))
    return read('mt940', { ...readMt(text, currency), openDate: null });
  if (/^\s*!(Type|Account|Option)/i.test(text))
    return read('qif', readQif(text, currency, choices.dates));
  const delimiter = choices.delimiter ?? delimiterOf(text);
  const rows = csvRows(text, delimiter, problems);
  const table = readTable(rows, { delimiter, booksCurrency: currency, choices }, problems);
  return tableFile('csv', encoding, table, problems);
}

/** The first sheet that is a table of bank lines. */
async function readWorkbook(
  bytes: Uint8Array,
  { currency, choices = {} }: ReadOptions,
): Promise<BankFile> {
  for (const rows of await xlsxRows(bytes)) {
    const problems: Problem[] = [];
    const table = readTable(rows, { delimiter: null, booksCurrency: currency, choices }, problems);
    if (table !== null) return tableFile('xlsx', 'utf-8', table, problems);
  }
  fail('FILE_UNKNOWN');
}

function tableFile(
  format: FileFormat,
  encoding: string,
  table: TableReading | null,
  problems: Problem[],
): BankFile {
  if (table === null) fail('FILE_UNKNOWN');
  const { layout, statement } = table;
  problems.sort((a, b) => a.line - b.line);
  const { openDate } = layout;
  return { format, encoding, layout, openDate, statements: [statement], problems };
}

/** As many problems as anybody will read, and that there are more. */
function cutProblems(problems: readonly Problem[]): readonly Problem[] {
  if (problems.length <= MOST_PROBLEMS) return problems;
  const kept = problems.slice(0, MOST_PROBLEMS);
  const line = kept.at(-1)?.line ?? 1;
  const count = problems.length - kept.length;
  return [...kept, problem('fatal', 'FILE_MORE_PROBLEMS', { count }, { line })];
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
